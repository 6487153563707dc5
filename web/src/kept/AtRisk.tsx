import { useEffect } from "react";
import { useLeaving } from "../ui/useLeaving";
import { hearOthers, useAtRisk } from "./useKept";

/** Keeps what is typed the same in all windows; says when the browser does not keep it, and has it ask before the page is left. */
export function AtRisk() {
  const isAtRisk = useAtRisk();
  useEffect(() => hearOthers(), []);
  useLeaving(isAtRisk);
  // Over the page and not in it: nothing moves under the hand of somebody who types.
  return (
    <div
      role="status"
      aria-label="Only on this page"
      className="pointer-events-none fixed bottom-3 left-16 z-40 max-[700px]:bottom-16 max-[700px]:inset-x-3"
    >
      {isAtRisk && (
        <p className="max-w-[204px] max-[700px]:max-w-none border border-ochre bg-raised px-3 py-2 text-ochre shadow-lg">
          What you typed or drew is on this page only: this browser has no room for it, or may not keep it. Store it
          before you leave.
        </p>
      )}
    </div>
  );
}
