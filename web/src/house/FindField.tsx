import { useLayoutEffect, useRef, useState, type ComponentProps } from "react";
import { createPortal } from "react-dom";

/** Where and how "Find or do" lies over the page. */
export const findLook =
  "fixed top-[10vh] left-1/2 z-[56] flex max-h-[76vh] w-[560px] max-w-[calc(100vw-1rem)] -translate-x-1/2 flex-col border border-ink bg-raised shadow-2xl";

type Props = Omit<ComponentProps<"input">, "value" | "onChange"> & {
  words: string;
  onWords: (words: string) => void;
  onEscape: () => void;
};

export function FindField({ words, onWords, onEscape, ...rest }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const escape = useRef(onEscape);
  useLayoutEffect(() => {
    escape.current = onEscape;
  });
  // Ahead of dialogs, of which the one below takes the key until another is known to lie above it: it closes what one types in, alone.
  useLayoutEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.key !== "Escape" || e.isComposing || e.target !== field.current) return;
      e.preventDefault();
      e.stopPropagation();
      escape.current();
    };
    window.addEventListener("keydown", press, { capture: true });
    return () => window.removeEventListener("keydown", press, { capture: true });
  }, []);
  return (
    <input
      ref={field}
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
}

/** Its field alone, until its list has come: what is typed meanwhile is no key of the page. */
export function FindComing({ words, onWords, onClose }: Pick<Props, "words" | "onWords"> & { onClose: () => void }) {
  // A dialog that is open lets the keys go to nothing outside of it.
  const [over] = useState(() => [...document.querySelectorAll("[role=dialog]")].at(-1));
  const field = (
    <div role="dialog" aria-label="Find or do" className={findLook}>
      <FindField words={words} onWords={onWords} onEscape={onClose} />
      <p role="status" className="waiting px-4 py-2 text-soft">
        Looking …
      </p>
    </div>
  );
  return over ? createPortal(field, over) : field;
}
