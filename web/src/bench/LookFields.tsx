import type { OverlayLook } from "../api/types";
import { inks } from "../viewer/pen";

type Props = { value: OverlayLook; onChange: (look: OverlayLook) => void };

const lines = { solid: "Solid line", dotted: "Dotted line" } as const satisfies Record<OverlayLook["line"], string>;
const widths = { fine: "Fine", medium: "Medium", bold: "Bold" } as const satisfies Record<OverlayLook["width"], string>;
const letters = {
  small: "Small letters",
  medium: "Usual letters",
  large: "Large letters",
} as const satisfies Record<OverlayLook["letters"], string>;

/** How what lies on an overlay is drawn. */
export function LookFields({ value, onChange }: Props) {
  return (
    <fieldset className="grid gap-2">
      <legend className="label mb-1">How it is drawn</legend>
      <div role="radiogroup" aria-label="Ink" className="flex gap-1.5">
        {(Object.keys(inks) as OverlayLook["ink"][]).map((ink) => (
          <label key={ink} title={inks[ink].words} className="relative grid h-7 w-7 place-items-center">
            <input
              type="radio"
              name="ink"
              className="peer absolute inset-0 cursor-pointer opacity-0"
              data-own-escape
              aria-label={inks[ink].words}
              checked={value.ink === ink}
              onChange={() => onChange({ ...value, ink })}
            />
            <span
              aria-hidden
              className={`h-5 w-5 rounded-full outline-offset-2 outline-ink peer-checked:outline-2 peer-focus-visible:outline-2 peer-focus-visible:outline-dashed ${inks[ink].fill}`}
            />
          </label>
        ))}
      </div>
      <div className="flex gap-2">
        <Choice label="Line" of={lines} value={value.line} onChange={(line) => onChange({ ...value, line })} />
        <Choice
          label="Width of the line"
          of={widths}
          value={value.width}
          onChange={(width) => onChange({ ...value, width })}
        />
      </div>
      <Choice
        label="Letters"
        of={letters}
        value={value.letters}
        onChange={(size) => onChange({ ...value, letters: size })}
      />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="accent-spruce"
          data-own-escape
          checked={value.isTinted}
          onChange={(e) => onChange({ ...value, isTinted: e.target.checked })}
        />
        Tint what is enclosed
      </label>
      <p className="text-sm text-soft">
        Places of notes keep the ink of their kind. Words keep the size they were written in.
      </p>
    </fieldset>
  );
}

type ChoiceProps<T extends string> = { label: string; of: Record<T, string>; value: T; onChange: (value: T) => void };

function Choice<T extends string>({ label, of, value, onChange }: ChoiceProps<T>) {
  return (
    <select
      className="field"
      aria-label={label}
      data-own-escape
      value={value}
      onChange={(e) => onChange(e.target.value as T)}
    >
      {(Object.keys(of) as T[]).map((v) => (
        <option key={v} value={v}>
          {of[v]}
        </option>
      ))}
    </select>
  );
}
