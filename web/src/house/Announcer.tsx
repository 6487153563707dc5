import { useEffect, useState } from "react";
import { announceBy } from "../ui/announce";

/** Reads out what a key did. */
export function Announcer() {
  const [said, setSaid] = useState({ words: "", turn: 0 });
  useEffect(() => announceBy((words) => setSaid((s) => ({ words, turn: s.turn + 1 }))), []);
  return (
    <p aria-live="polite" className="sr-only">
      {/* The same words again are read again. */}
      <span key={said.turn}>{said.words}</span>
    </p>
  );
}
