import { useEffect, useState } from "react";
import { announceBy, type Said } from "../ui/announce";

/** How long what is shown stays, in milliseconds. */
const STAYS = 4000;

/** Reads out what was done, and shows it for a moment where it shows nowhere else. */
export function Announcer() {
  const [said, setSaid] = useState<Said & { turn: number }>({ words: "", isShown: false, turn: 0 });
  useEffect(() => announceBy((now) => setSaid((s) => ({ ...now, turn: s.turn + 1 }))), []);
  useEffect(() => {
    if (!said.isShown) return;
    const timer = window.setTimeout(() => setSaid((s) => ({ ...s, isShown: false })), STAYS);
    return () => clearTimeout(timer);
  }, [said]);
  return (
    <p
      aria-live="polite"
      className={
        said.isShown
          ? "fixed bottom-3 left-1/2 z-[70] -translate-x-1/2 border border-ink bg-raised px-3 py-2 shadow-xl"
          : "sr-only"
      }
    >
      {/* The same words again are read again. */}
      <span key={said.turn}>{said.words}</span>
    </p>
  );
}
