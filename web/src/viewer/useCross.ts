import { useState } from "react";
import type { Point } from "../api/types";
import type { Hand } from "./sheet";

/** How far an arrow moves the cross, in CSS pixels; with Shift. */
const STEP = 24;
const FINE = 2;
/** How near the window's edge the cross may come, in CSS pixels, before the sheet moves along. */
const EDGE = 32;

const ways: Readonly<Record<string, readonly [x: number, y: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

type Window = {
  /** The middle of the window on the sheet. */
  middle: Point;
  /** Units of the sheet in a CSS pixel. */
  unit: number;
  width: number;
  height: number;
  /** Moves the sheet in the window, by units of the sheet. */
  pan: (dx: number, dy: number) => void;
};

/** The cross by which corners are set without a pointer: the arrows move it while something is drawn, Enter sets a corner there. */
export function useCross(hand: Hand) {
  const [cross, setCross] = useState<{ at: Point; isSecond: boolean } | null>(null);
  const shown = hand.isDrawing ? cross : null;
  /** Whether the key was meant for the cross. */
  const key = (e: React.KeyboardEvent, { middle, unit, width, height, pan }: Window): boolean => {
    if (!hand.isDrawing || e.ctrlKey || e.metaKey || e.altKey) return false;
    if (e.key === "Escape") {
      setCross(null);
      return false;
    }
    const at = shown?.at ?? middle;
    if (e.key === "Enter") {
      setCross(hand.place({ at, unit, isAdding: e.shiftKey }) ? { at, isSecond: true } : null);
      return true;
    }
    const way = ways[e.key];
    if (!way) return false;
    const far = (e.shiftKey ? FINE : STEP) * unit;
    // The first press shows where it stands.
    const to = shown ? { x: at.x + way[0] * far, y: at.y + way[1] * far } : at;
    const [roomX, roomY] = [(width / 2 - EDGE) * unit, (height / 2 - EDGE) * unit];
    const over = (d: number, room: number) => Math.sign(d) * Math.max(0, Math.abs(d) - room);
    pan(over(to.x - middle.x, roomX), over(to.y - middle.y, roomY));
    setCross({ at: to, isSecond: shown?.isSecond ?? false });
    hand.hover({ at: to, unit });
    return true;
  };
  return { cross: shown, key };
}
