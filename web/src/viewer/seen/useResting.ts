import { useEffect } from "react";
import { toSheet, type View } from "../view";
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
        const upper = toSheet(view, 0, 0, size.width, size.height);
        const lower = toSheet(view, size.width, size.height, size.width, size.height);
        onRest({
          area: {
            left: upper.x + origin[0],
            top: upper.y + origin[1],
            right: lower.x + origin[0],
            bottom: lower.y + origin[1],
          },
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
