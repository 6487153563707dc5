import type { ButtonHTMLAttributes, ReactNode } from "react";
import { clockOf, minuteOf } from "./time";

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { look?: "main" | "plain" | "quiet"; shortcut?: string };

export function Button({ look = "plain", shortcut, className = "", children, ...rest }: ButtonProps) {
  const looks = {
    main: "bg-spruce text-on border-spruce hover:bg-spruce-deep disabled:bg-off disabled:border-edge disabled:text-off-ink",
    plain: "bg-raised border-edge hover:bg-lit disabled:text-soft",
    quiet: "border-transparent hover:bg-picked",
  };
  return (
    <button
      type="button"
      className={`inline-flex min-h-8 items-center justify-center gap-2 rounded-[5px] border px-3 py-1 font-medium disabled:cursor-not-allowed ${looks[look]} ${className}`}
      {...rest}
    >
      {children}
      {shortcut && (
        <kbd className="rounded-[3px] border border-current/35 px-1 font-mono text-[10px] leading-4">{shortcut}</kbd>
      )}
    </button>
  );
}

export function Fault({ children }: { children: ReactNode }) {
  return children ? (
    <p role="alert" className="fault my-2">
      {children}
    </p>
  ) : null;
}

export function Labelled({ label, hint, children }: { label: string; hint?: string; children: ReactNode }) {
  return (
    <label className="mb-3 block">
      <span className="label mb-1 block">{label}</span>
      {children}
      {hint && <span className="mt-1 block text-sm text-soft">{hint}</span>}
    </label>
  );
}

export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="m-auto max-w-md px-6 py-16 text-center">
      <p className="text-lg font-medium">{title}</p>
      <div className="mt-1 text-soft">{children}</div>
    </div>
  );
}

/** What a revision's standing looks like: words with a small sign, never colour alone. */
export function StandingTag({ standing }: { standing: string }) {
  const look: Record<string, string> = {
    released: "bg-ink text-raised border-ink",
    "in review": "border-spruce text-spruce",
    returned: "border-rust text-rust",
    superseded: "border-soft text-soft line-through",
  };
  return (
    <span
      className={`inline-block rounded-[3px] border px-1.5 text-sm leading-5 whitespace-nowrap ${look[standing] ?? "border-edge text-soft"}`}
    >
      {standing}
    </span>
  );
}

export function RoundTag({ round }: { round: number }) {
  return round > 1 ? (
    <span className="rounded-full border border-ink bg-raised px-2 text-sm font-semibold whitespace-nowrap">
      Round {round}
    </span>
  ) : null;
}

export function Tick({
  words,
  on,
  set,
  disabled = false,
}: {
  words: string;
  on: boolean;
  set: (on: boolean) => void;
  disabled?: boolean;
}) {
  return (
    <label className={`mb-1 flex items-start gap-2 ${disabled ? "text-soft" : ""}`}>
      <input
        type="checkbox"
        className="mt-0.5 h-4 w-4 shrink-0 accent-spruce"
        checked={on}
        disabled={disabled}
        onChange={(e) => set(e.target.checked)}
      />
      {words}
    </label>
  );
}

/** A time of the day on a clock of 24 hours, whatever the browser's own habit; what cannot be read goes back to what was. */
export function TimeField({
  label,
  minute,
  onChange,
}: {
  label: string;
  minute: number;
  onChange: (minute: number) => void;
}) {
  return (
    <input
      key={minute}
      className="field !w-[64px] text-center"
      inputMode="numeric"
      aria-label={label}
      placeholder="08:30"
      defaultValue={clockOf(minute)}
      onBlur={(e) => {
        const read = minuteOf(e.target.value);
        if (read === null) e.target.value = clockOf(minute);
        else onChange(read);
      }}
    />
  );
}
