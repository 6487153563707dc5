import type { ReactNode } from "react";

/** A quiet line while something comes; it shows after a fifth of a second, so that what is quick does not flicker. */
export function Waiting({ children }: { children: ReactNode }) {
  return (
    <p role="status" className="waiting m-auto px-6 py-16 text-center text-soft">
      {children}
    </p>
  );
}
