import type { Point } from "../../api/types";
import { by, type Of, type ShapeKind } from "./shape";

type Path = { points: Point[] };

/** What goes through points, in their order. */
export function paths<S extends Path>(
  detail: number,
  outline: ShapeKind<S>["outline"],
  { least = 2, ...other }: Partial<ShapeKind<S>> & { least?: number } = {},
): ShapeKind<S> {
  return {
    detail,
    outline,
    label: ({ points }) => points[points.length - 1]!,
    anchor: ({ points }) => points[Math.floor(points.length / 2)]!,
    handles: ({ points }) => points,
    reshaped: (shape, handle, to) => ({ ...shape, points: shape.points.map((p, i) => (i === handle ? to : p)) }),
    moved: (shape, dx, dy) => ({ ...shape, points: shape.points.map((p) => by(p, dx, dy)) }),
    hasSize: ({ points }) => points.length >= least && points.some((p) => p.x !== points[0]!.x || p.y !== points[0]!.y),
    ...other,
  };
}

export const polyline = paths<Of<"polyline">>(1, ({ points }) => ({ lines: [points], fill: "none" }));

/** The uppermost of some points, of those the rightmost. */
export const uppermost = (points: readonly Point[]) =>
  points.reduce((a, b) => (b.y > a.y || (b.y === a.y && b.x > a.x) ? b : a));

/** The length of the sides of what points enclose. */
export const aroundOf = (points: readonly Point[]): number =>
  points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return sum + Math.hypot(q.x - p.x, q.y - p.y);
  }, 0);

/** Twice the area that points enclose, negative when they go round clockwise; counted from the first, so that far from the origin nothing is lost. */
export function twiceArea(points: readonly Point[]): number {
  const { x, y } = points[0]!;
  return points.reduce((sum, a, i) => {
    const b = points[(i + 1) % points.length]!;
    return sum + (a.x - x) * (b.y - y) - (b.x - x) * (a.y - y);
  }, 0);
}

/** How often a freehand line's corners are cut. */
const CUTS = 2;

/** As a hand drew it, its corners cut twice (Chaikin 1974); it is moved whole, for it has no corners of its own. */
export const freehand = paths<Of<"freehand">>(
  1,
  ({ points }) => {
    let line = points;
    for (let cut = 0; cut < CUTS && line.length > 2; cut++) {
      const next: Point[] = [line[0]!];
      for (let i = 1; i < line.length; i++) {
        const [a, b] = [line[i - 1]!, line[i]!];
        if (i > 1) next.push({ x: a.x * 0.75 + b.x * 0.25, y: a.y * 0.75 + b.y * 0.25 });
        if (i < line.length - 1) next.push({ x: a.x * 0.25 + b.x * 0.75, y: a.y * 0.25 + b.y * 0.75 });
      }
      next.push(line[line.length - 1]!);
      line = next;
    }
    return { lines: [line], fill: "none" };
  },
  { handles: () => [], reshaped: (shape) => shape },
);

/**
 * The points of a line that a hand drew, without those that lie within a distance of the rest (Douglas and Peucker 1973). At most `most` are left:
 * where more would be, the distance is doubled.
 */
export function simplified(points: readonly Point[], distance: number, most: number): Point[] {
  for (let within = distance; ; within *= 2) {
    const kept = new Uint8Array(points.length);
    kept[0] = kept[points.length - 1] = 1;
    const open: [number, number][] = [[0, points.length - 1]];
    for (let at = open.pop(); at; at = open.pop()) {
      const [from, to] = at;
      let [farthest, far] = [-1, within];
      for (let i = from + 1; i < to; i++) {
        const d = toSegment(points[i]!, points[from]!, points[to]!);
        if (d > far) [farthest, far] = [i, d];
      }
      if (farthest < 0) continue;
      kept[farthest] = 1;
      open.push([from, farthest], [farthest, to]);
    }
    const left = points.filter((_, i) => kept[i]);
    if (left.length <= most) return left;
  }
}

/** How far a point lies from a stretch of a line. */
export function toSegment(p: Point, a: Point, b: Point): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / square));
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}
