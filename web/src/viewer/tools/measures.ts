import type { Point, Shape } from "../../api/types";
import { offsetTo } from "../shapes/dimension";
import { path } from "./path";
import { points } from "./points";
import { LETTERS } from "../pen";
import type { Seen, Tool } from "./tool";

/** By which scale it is measured, and how large its letters are. */
const told = (at: Point, unit: number, seen: Seen) => ({
  factor: seen.factorAt?.(at) ?? null,
  height: LETTERS.medium * unit,
});

/** Measures between two points, and keeps it: one, the other, and where the line with the value stands. */
export const dimension = points("dimension", 3, ([from, to, third], unit, seen) =>
  from && to
    ? {
        ...{ shape: "dimension", from, to, offset: third ? offsetTo({ from, to }, third) : 0, wanted: "" },
        ...told(from, unit, seen),
      }
    : null,
);

const areaByCorners = path((all, unit, seen) => ({ shape: "area", points: all, ...told(all[0]!, unit, seen) }), true);

/** Measures what points enclose; with Shift, what the lines about the point enclose. */
export const area: Tool = (held, event, seen) => {
  const isBegun = held?.tool === "path" && held.points.length > 0;
  if (isBegun || !("at" in event) || !event.isAdding) return areaByCorners(held, event, seen);
  // The point is where the hand is, not what it is near to.
  if (event.does === "press" || event.does === "place") return { state: null, encloses: event.free ?? event.at };
  return { state: null };
};

/** An area by its corners, which were found for it. */
export const areaOf = (corners: readonly Point[], unit: number, seen: Seen): Shape => ({
  shape: "area",
  points: [...corners],
  ...told(corners[0]!, unit, seen),
});

/** Measures along a path, point after point. */
export const pathLength = path(
  (all, unit, seen) => ({ shape: "pathLength", points: all, ...told(all[0]!, unit, seen) }),
  false,
);

/** Says where a point lies, counted from the origin that is set. */
export const coordinate: Tool = (_, event, seen) => {
  if (event.does === "press") return { state: { tool: "twoPoint", from: event.at } };
  if (event.does !== "release" && event.does !== "place") return { state: null };
  const origin = seen.origin ?? { x: 0, y: 0 };
  return { state: null, drawn: { shape: "coordinate", at: event.at, origin, ...told(event.at, event.unit, seen) } };
};

/** Measures an angle: its apex, then a point on each leg. */
export const angle = points("angle", 3, ([apex, from, to], unit): Shape | null =>
  apex && from && to
    ? { shape: "angle", apex, from, to, height: LETTERS.medium * unit }
    : apex && from
      ? { shape: "line", from: apex, to: from }
      : null,
);

/** The middle of the circle through three points; null where they lie in a line. */
export function middleOfCircle(a: Point, b: Point, c: Point): Point | null {
  const [bx, by, cx, cy] = [b.x - a.x, b.y - a.y, c.x - a.x, c.y - a.y];
  const d = 2 * (bx * cy - by * cx);
  if (Math.abs(d) <= 1e-9 * Math.hypot(bx, by) * Math.hypot(cx, cy)) return null;
  const [p, q] = [bx * bx + by * by, cx * cx + cy * cy];
  return { x: a.x + (cy * p - by * q) / d, y: a.y + (bx * q - cx * p) / d };
}

/** Measures a circle: pressed on one of the file, that; elsewhere the one through three points. */
export const radius = points(
  "radius",
  3,
  ([a, b, c], unit, seen): Shape | null => {
    if (!a || !b) return null;
    const middle = c && middleOfCircle(a, b, c);
    return middle
      ? { shape: "radius", from: middle, to: c, ...told(middle, unit, seen) }
      : { shape: "polyline", points: c ? [a, b, c] : [a, b] };
  },
  ({ at, unit, centre }, seen) =>
    centre ? { shape: "radius", from: centre, to: at, ...told(centre, unit, seen) } : null,
);
