import { useSyncExternalStore } from "react";
import type { Place } from "../sheet";
import type { InHand } from "../tools/inHand";

/** Shows what will be caught by the next press: a ring around it, and what it is. */
export function SnapSign({ inHand, place }: { inHand: InHand; place: Place }) {
  const snap = useSyncExternalStore(inHand.subscribe, inHand.snapNow);
  if (!snap) return null;
  const at = place(snap.at);
  return (
    <div
      aria-hidden
      data-testid="snap"
      className="pointer-events-none absolute top-0 left-0 z-20"
      style={{ transform: `translate(${at.x}px, ${at.y}px)` }}
    >
      <span className="absolute -top-[7px] -left-[7px] h-3.5 w-3.5 rounded-full border-2 border-rust bg-paper/60" />
      <span className="absolute top-2 left-2.5 bg-ink px-1.5 text-sm leading-5 whitespace-nowrap text-raised">
        {snap.kind}
      </span>
    </div>
  );
}
