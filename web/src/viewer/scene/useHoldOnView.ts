import { useEffect, useRef } from "react";
import type { Point } from "../../api/types";
import type { Hand } from "../sheet";
import type { ViewPlane } from "./onView";

type Holding = {
  frame: React.RefObject<HTMLElement | null>;
  /** Null where nothing can be drawn. */
  hand: Hand | null;
  plane: () => ViewPlane;
  /** Whether something that was drawn on the view lies at a point of its plane. */
  isOn: (at: Point, unit: number) => boolean;
};

/** Takes hold of what was drawn on a view, before the press turns the model. */
export function useHoldOnView({ frame, ...now }: Holding) {
  const acts = useRef(now);
  useEffect(() => {
    acts.current = now;
  });
  useEffect(() => {
    const element = frame.current!;
    let held: number | null = null;
    const at = (e: PointerEvent) => {
      const [box, plane] = [element.getBoundingClientRect(), acts.current.plane()];
      const on = plane.pointAt(e.clientX - box.left, e.clientY - box.top);
      return { at: on, unit: plane.unit, isFree: e.altKey, isAdding: e.shiftKey };
    };
    const down = (e: PointerEvent) => {
      const { hand, isOn } = acts.current;
      if (!hand || hand.isDrawing || e.button !== 0 || (e.target as Element).closest("[data-on-sheet]")) return;
      const there = at(e);
      if (!isOn(there.at, there.unit) || !hand.press(there)) return;
      held = e.pointerId;
      element.setPointerCapture(held);
      e.stopImmediatePropagation();
      element.focus();
      e.preventDefault();
    };
    const moved = (e: PointerEvent) => {
      if (e.pointerId !== held) return;
      e.stopImmediatePropagation();
      acts.current.hand?.drag(at(e));
    };
    const up = (e: PointerEvent) => {
      if (e.pointerId !== held) return;
      held = null;
      e.stopImmediatePropagation();
      if (e.type === "pointerup") acts.current.hand?.release(at(e));
      else acts.current.hand?.cancel();
    };
    const on = { capture: true };
    element.addEventListener("pointerdown", down, on);
    element.addEventListener("pointermove", moved, on);
    element.addEventListener("pointerup", up, on);
    element.addEventListener("pointercancel", up, on);
    return () => {
      element.removeEventListener("pointerdown", down, on);
      element.removeEventListener("pointermove", moved, on);
      element.removeEventListener("pointerup", up, on);
      element.removeEventListener("pointercancel", up, on);
    };
  }, [frame]);
}
