import { useState } from "react";
import { idle, type Hand } from "../sheet";
import { useCross } from "../useCross";
import type { Eye } from "../camera/eye";
import { windowPoint, type WindowPoint } from "../camera/points";
import type { ViewPlane } from "./onView";
import { eyeAfterKey } from "./useSceneHand";

/** How far an arrow moves the cross that picks, CSS pixels; with Shift. */
const STEP = 24;
const FINE = 2;

const ways: Readonly<Record<string, readonly [x: number, y: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

type Acts = {
  eyeNow: () => Eye | null;
  size: () => { width: number; height: number };
  plane: () => ViewPlane;
  move: (eye: Eye, isMoving: boolean) => void;
  hand: Hand | null;
  /** What a press at a place of the window does. */
  press: (x: number, y: number, isMore: boolean) => void;
  /** Pins what is picked, erases it, leaves what is under way; null where there is nothing of the kind. */
  pin: (() => void) | null;
  erase: (() => void) | null;
  leave: (() => void) | null;
};

/** A model by key: its eye, a cross that draws on the view, and one that picks what lies beneath. */
export function useSceneKeys(acts: Acts) {
  const { hand } = acts;
  const drawn = useCross(hand ?? idle);
  const [spot, setSpot] = useState<WindowPoint | null>(null);
  const shown = hand?.isDrawing ? null : spot;
  const done = (e: React.KeyboardEvent) => e.preventDefault();
  const onKeyDown = (e: React.KeyboardEvent) => {
    const eye = acts.eyeNow();
    if (e.target !== e.currentTarget || e.altKey || e.ctrlKey || e.metaKey || !eye) return;
    const [{ width, height }, plane] = [acts.size(), acts.plane()];
    const window_ = { middle: { x: 0, y: 0 }, unit: plane.unit, width, height, pan: () => undefined };
    if (e.key === "Escape") hand?.cancel();
    if (hand && (hand.key(e, plane.unit) || drawn.key(e, window_))) return done(e);
    if (e.key === " " && !hand?.isDrawing) {
      // The first time it shows where it stands.
      if (shown) acts.press(shown.x, shown.y, e.shiftKey);
      else setSpot(windowPoint(width / 2, height / 2));
      return done(e);
    }
    const way = ways[e.key];
    if (shown && way) {
      const far = e.shiftKey ? FINE : STEP;
      const within = (n: number, most: number) => Math.max(0, Math.min(most, n));
      setSpot(windowPoint(within(shown.x + way[0] * far, width), within(shown.y + way[1] * far, height)));
      return done(e);
    }
    const next = eyeAfterKey(eye, e, width, height);
    if (next) {
      acts.move(next, false);
      return done(e);
    }
    if ((e.key === "Delete" || e.key === "Backspace") && acts.erase) {
      acts.erase();
      return done(e);
    }
    if (e.key === "Enter" && acts.pin) {
      acts.pin();
      return done(e);
    }
    if (e.key !== "Escape") return;
    if (shown) setSpot(null);
    else acts.leave?.();
  };
  return {
    onKeyDown,
    /** The cross that draws, in the window. */
    cross: drawn.cross && { at: acts.plane().place(drawn.cross.at), isSecond: drawn.cross.isSecond },
    /** The cross that picks, in the window. */
    spot: shown,
  };
}
