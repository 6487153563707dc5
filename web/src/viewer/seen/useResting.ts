import { useEffect } from "react";
import { onSheet, windowPoint } from "../camera/points";
import { toOffset, type View } from "../camera/view";
import type { Seen } from "./patches";

type Resting = {
  /** What of the sheet is on the screen, from its origin; null before anything is. */
  view: View | null;
  size: { width: number; height: number };
  origin: readonly [number, number];
  /** Whether all that the sheet shows is drawn, and sharp. */
  isDrawn: boolean;
  /** Seconds for which the view must not move; null while nobody wants to know. */
  seconds: number | null;
  onRest: (view: Seen) => void;
};

/** Tells what lay on the screen without moving, the page being in front. */
export function useResting({ view, size, origin, isDrawn, seconds, onRest }: Resting) {
  useEffect(() => {
    if (!view || !isDrawn || seconds === null) return;
    let timer = 0;
    const begin = () => {
      clearTimeout(timer);
      if (document.visibilityState !== "visible") return;
      timer = window.setTimeout(() => {
        const upper = onSheet(toOffset(view, windowPoint(0, 0), size), origin);
        const lower = onSheet(toOffset(view, windowPoint(size.width, size.height), size), origin);
        onRest({
          area: { left: upper.x, top: upper.y, right: lower.x, bottom: lower.y },
          scale: view.scale,
        });
      }, seconds * 1000);
    };
    begin();
    document.addEventListener("visibilitychange", begin);
    return () => {
      clearTimeout(timer);
      document.removeEventListener("visibilitychange", begin);
    };
  }, [view, size, origin, isDrawn, seconds, onRest]);
}
