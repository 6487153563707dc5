import type { Point, Shape } from "../../api/types";
import { hasSize } from "../shapes";
import { simplified } from "../shapes/path";
import { LEAST, type Seen, type Step, type Tool } from "./tool";

/** Most points of a shape: what the server takes. */
const MOST = 1000;
/** How far a freehand line may lie from where the hand was, in CSS pixels. */
const TREMBLE = 0.8;

const isNear = (a: Point, b: Point, unit: number) => Math.hypot(a.x - b.x, a.y - b.y) <= LEAST * unit;

/** Draws through points: each press sets one; pressed again at the last, or at the first, or Enter, it is done. */
export const path =
  (shapeOf: (points: Point[], unit: number, seen: Seen) => Shape, isClosed: boolean): Tool =>
  (held, event, seen) => {
    const state = held?.tool === "path" ? held : null;
    const points = state?.points ?? [];
    const unit = "unit" in event ? event.unit : (state?.unit ?? 1);
    const done = (all: Point[]): Step => {
      const shape = all.length > 1 ? shapeOf(all, unit, seen) : null;
      return shape && hasSize(shape) ? { state: null, drawn: shape } : { state };
    };
    const going = (all: Point[], at: Point, pressed: Point | null = null): Step => ({
      state: { tool: "path", points: all, pressed, unit },
      preview: { id: null, shape: shapeOf([...all, at], unit, seen) },
    });
    switch (event.does) {
      case "press":
      case "place": {
        const { at } = event;
        const last = points[points.length - 1];
        if (last && isNear(at, last, unit)) return done(points);
        if (points.length > 2 && isNear(at, points[0]!, unit)) return done(isClosed ? points : [...points, points[0]!]);
        if (points.length === MOST) return done(points);
        return going([...points, at], at, at);
      }
      case "drag":
      case "hover":
        return state ? going(points, event.at, state.pressed) : { state: null };
      case "release": {
        if (!state) return { state: null };
        // Dragged rather than pressed: the stretch is drawn at once.
        const isDragged = state.pressed && !isNear(state.pressed, event.at, event.unit);
        return going(isDragged ? [...points, event.at] : points, event.at);
      }
      case "end":
        return done(points);
      case "back": {
        const rest = points.slice(0, -1);
        const last = rest[rest.length - 1];
        return last ? going(rest, last) : { state: null };
      }
      case "cancel":
        return { state: null };
    }
  };

/** Draws as the hand goes. */
export const freehand: Tool = (held, event) => {
  const points = held?.tool === "freehand" ? held.points : null;
  if (event.does === "press") return { state: { tool: "freehand", points: [event.at] } };
  if (!points || (event.does !== "drag" && event.does !== "release")) return { state: null };
  const all = [...points, event.at];
  if (event.does === "drag")
    return {
      state: { tool: "freehand", points: all },
      preview: { id: null, shape: { shape: "freehand", points: all } },
    };
  const shape: Shape = { shape: "freehand", points: simplified(all, TREMBLE * event.unit, MOST) };
  const isLine = all.some((p) => !isNear(p, points[0]!, event.unit));
  return { state: null, drawn: isLine && hasSize(shape) ? shape : undefined };
};
