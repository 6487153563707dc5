import type { ReactNode } from "react";

type Props = { words: string; onClick: () => void; disabled?: boolean; pressed?: boolean; children: ReactNode };

/** A small button that shows a sign only; its words are said to whoever cannot see it, and on hovering. */
export function SignButton({ words, onClick, disabled, pressed, children }: Props) {
  return (
    <button
      type="button"
      aria-label={words}
      title={words}
      disabled={disabled}
      aria-pressed={pressed}
      className={`inline-flex h-8 w-8 shrink-0 items-center justify-center rounded-[5px] disabled:opacity-40 ${pressed ? "bg-ink text-raised" : "hover:bg-picked"}`}
      onClick={onClick}
    >
      {children}
    </button>
  );
}
