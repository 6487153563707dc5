import { X } from "lucide-react";
import { SignButton } from "../../ui/SignButton";
import type { FactLine } from "./exact";

type Props = {
  /** Whether it lies over the model, or in a column beside it. */
  isFloating: boolean;
  /** What is picked. */
  title: string;
  /** What of it, such as a face. */
  of: string | null;
  lines: readonly FactLine[];
  /** How sure the values are. */
  sureness: string;
  /** What it weighs a volume, where the file does not say and somebody may; null where there is nothing to be asked. */
  density: { value: string; onChange: (value: string) => void } | null;
  acts: readonly { words: string; run: () => void }[];
  /** Colours that it can be given; `given` tells whether it has been. Null for none. */
  paints: null | {
    given: boolean;
    choices: readonly (readonly [colour: string, words: string])[];
    onPaint: (colour: string | null) => void;
  };
  onClose: () => void;
};

/** What is known of what is picked. */
export function PickedFacts({ isFloating, title, of, lines, sureness, density, acts, paints, onClose }: Props) {
  return (
    <section
      aria-label="Picked"
      data-on-sheet
      className={`flex flex-col overflow-y-auto ${isFloating ? "absolute top-3 right-3 z-20 max-h-[70%] w-64 max-[900px]:top-12 max-[900px]:max-h-[42%] border border-rule bg-raised px-3 py-2" : "mt-1 max-h-[60%] shrink-0 border-t-2 border-ink pt-2"}`}
    >
      <div className="flex items-start gap-1">
        <h2 className="min-w-0 flex-1 font-semibold break-words">{title}</h2>
        <SignButton words="Pick nothing" onClick={onClose}>
          <X size={15} />
        </SignButton>
      </div>
      {of && <p className="label mt-1">{of}</p>}
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-sm">
        {lines.map(({ words, value }) => (
          <div key={words} className="contents">
            <dt className="text-soft">{words}</dt>
            <dd className={`text-right font-mono tabular-nums ${/[,×]/.test(value) ? "" : "whitespace-nowrap"}`}>
              {value}
            </dd>
          </div>
        ))}
      </dl>
      {lines.length > 0 && <p className="mt-1 text-right text-sm text-soft">{sureness}</p>}
      {density && (
        <label className="mt-1 flex items-center justify-between gap-2 text-sm text-soft">
          Density, g/cm³
          <input
            inputMode="decimal"
            maxLength={12}
            className="field w-20 text-right font-mono"
            value={density.value}
            onChange={(e) => density.onChange(e.target.value)}
          />
        </label>
      )}
      <div className="mt-2 flex flex-wrap gap-1">
        {acts.map(({ words, run }) => (
          <button
            key={words}
            type="button"
            className="min-h-7 rounded-[5px] border border-edge px-2 text-sm hover:bg-picked"
            onClick={run}
          >
            {words}
          </button>
        ))}
      </div>
      {paints && (
        <div className="mt-1 flex items-center gap-1" role="group" aria-label="Paint it">
          {paints.choices.map(([colour, words]) => (
            <button
              key={colour}
              type="button"
              aria-label={`Paint it ${words.toLowerCase()}`}
              title={words}
              className="h-6 w-6 rounded-[5px] border border-edge"
              style={{ background: colour }}
              onClick={() => paints.onPaint(colour)}
            />
          ))}
          {paints.given && (
            <button type="button" className="min-h-6 px-1 text-sm underline" onClick={() => paints.onPaint(null)}>
              Its own
            </button>
          )}
        </div>
      )}
    </section>
  );
}
