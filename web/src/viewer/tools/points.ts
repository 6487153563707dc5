import type { Point, Shape } from "../../api/types";
import { hasSize, type DrawnName } from "../shapes";
import { LEAST, type At, type Seen, type Step, type Tool } from "./tool";

/** What some points make: of fewer than all, what is to be seen meanwhile; null for nothing. */
type Made = (points: readonly Point[], unit: number, seen: Seen) => Shape | null;

/**
 * Draws what a number of points make, a shape of one kind: each is set by a press, two at once by dragging, or by Enter at the cross.
 * @param atOnce what a first press makes by itself, where it was caught by something; null where it makes nothing yet
 */
export const points =
  (name: DrawnName, count: number, made: Made, atOnce: (event: At, seen: Seen) => Shape | null = () => null): Tool =>
  (held, event, seen) => {
    const state = held?.tool === "points" ? held : null;
    const set = state?.points ?? [];
    if (event.does === "cancel" || event.does === "end") return { state: null };
    if (event.does === "back")
      return set.length > 1 ? { state: { tool: "points", points: set.slice(0, -1), pressed: null } } : { state: null };
    const { at, unit } = event;
    const isNear = (p: Point) => Math.hypot(p.x - at.x, p.y - at.y) <= LEAST * unit;
    const going = (all: Point[], pressed: Point | null): Step => {
      const shape = made([...all, at], unit, seen);
      const preview = shape && hasSize(shape) ? { id: null, shape } : undefined;
      return { state: { tool: "points", points: all, pressed }, preview };
    };
    const added = (pressed: Point | null): Step => {
      const all = [...set, at];
      if (all.length < count) return going(all, pressed);
      const drawn = made(all, unit, seen);
      // What has no size, or is not what was to be drawn, is none: the last point is wanted again.
      return drawn?.shape === name && hasSize(drawn) ? { state: null, drawn } : going(set, null);
    };
    switch (event.does) {
      case "press":
      case "place": {
        const drawn = set.length === 0 ? atOnce(event, seen) : null;
        if (drawn) return { state: null, drawn };
        const last = set[set.length - 1];
        return last && set.length === 1 && isNear(last) ? going(set, at) : added(at);
      }
      case "drag":
      case "hover":
        return state ? going(set, state.pressed) : { state: null };
      case "release": {
        if (!state) return { state: null };
        const isDragged = state.pressed && !isNear(state.pressed) && set.length === 1;
        return isDragged ? added(null) : going(set, null);
      }
    }
  };
