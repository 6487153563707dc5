import type { ComponentProps } from "react";

/** Where and how "Find or do" lies over the page. */
export const findLook =
  "fixed top-[10vh] left-1/2 z-[56] flex max-h-[76vh] w-[560px] max-w-[calc(100vw-1rem)] -translate-x-1/2 flex-col border border-ink bg-raised shadow-2xl";

type Props = Omit<ComponentProps<"input">, "value" | "onChange"> & { words: string; onWords: (words: string) => void };

export const FindField = ({ words, onWords, ...rest }: Props) => (
  <input
    className="w-full border-b-2 border-spruce bg-transparent px-4 py-3 text-lg placeholder:text-soft"
    role="combobox"
    data-find-all
    aria-expanded={false}
    aria-label="Find or do"
    placeholder="A command, place, package, document or person"
    autoFocus
    maxLength={200}
    value={words}
    onChange={(e) => onWords(e.target.value)}
    {...rest}
  />
);

/** Its field alone, until its list has come: what is typed meanwhile is no key of the page. */
export const FindComing = ({ words, onWords, onClose }: Pick<Props, "words" | "onWords"> & { onClose: () => void }) => (
  <div role="dialog" aria-label="Find or do" className={findLook}>
    <FindField words={words} onWords={onWords} onKeyDown={(e) => e.key === "Escape" && onClose()} />
    <p role="status" className="waiting px-4 py-2 text-soft">
      Looking …
    </p>
  </div>
);
