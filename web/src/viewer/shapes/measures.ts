import type { Angle, Area, Coordinate, PathLength, Point, Radius } from "../../api/types";
import { head } from "./arrow";
import { paths, twiceArea, uppermost } from "./path";
import { by, type ShapeKind } from "./shape";
import { between } from "./twoPoints";

/** What points enclose, measured and kept; it is about its centre of mass. */
export const area = paths<Area>(1, ({ points }) => ({ lines: [[...points, points[0]!]], fill: "tint" }), {
  least: 3,
  label: ({ points }) => uppermost(points),
  anchor({ points }) {
    const twice = twiceArea(points);
    const first = points[0]!;
    // While it is drawn, its points may lie in a line.
    if (twice === 0) return first;
    let [x, y] = [0, 0];
    for (const [i, p] of points.entries()) {
      const q = points[(i + 1) % points.length]!;
      const [ax, ay, bx, by] = [p.x - first.x, p.y - first.y, q.x - first.x, q.y - first.y];
      const cross = ax * by - bx * ay;
      x += (ax + bx) * cross;
      y += (ay + by) * cross;
    }
    return { x: first.x + x / (3 * twice), y: first.y + y / (3 * twice) };
  },
  hasSize: ({ points }) => points.length >= 3 && twiceArea(points) !== 0,
});

/** How long a path is, in the sheet's units. */
export const alongOf = (points: readonly Point[]): number =>
  points.slice(1).reduce((sum, p, i) => sum + Math.hypot(p.x - points[i]!.x, p.y - points[i]!.y), 0);

/** A length along a path, measured and kept. */
export const pathLength = paths<PathLength>(1, ({ points }) => ({ lines: [points], fill: "none" }));

/** Where a point lies from an origin, measured and kept. */
export const coordinate: ShapeKind<Coordinate> = {
  detail: 14,
  outline: ({ at }, detail) => ({
    lines: [
      [by(at, -detail / 2, 0), by(at, detail / 2, 0)],
      [by(at, 0, -detail / 2), by(at, 0, detail / 2)],
    ],
    fill: "none",
  }),
  label: ({ at }) => at,
  anchor: ({ at }) => at,
  handles: ({ at }) => [at],
  reshaped: (shape, _, to) => ({ ...shape, at: to }),
  moved: (shape, dx, dy) => ({ ...shape, at: by(shape.at, dx, dy) }),
  hasSize: () => true,
};

/** From the one leg of an angle to the other the shorter way round, in radians, from -π to π. */
export function turnOf({ from, to, apex }: Pick<Angle, "from" | "to" | "apex">): number {
  const [ax, ay, bx, by] = [from.x - apex.x, from.y - apex.y, to.x - apex.x, to.y - apex.y];
  return Math.atan2(ax * by - ay * bx, ax * bx + ay * by);
}

/** Straight pieces an angle's arc is drawn by. */
const PIECES = 24;

function onArc(shape: Angle, share: number): Point {
  const { from, to, apex } = shape;
  const radius = Math.min(Math.hypot(from.x - apex.x, from.y - apex.y), Math.hypot(to.x - apex.x, to.y - apex.y)) * 0.6;
  const at = Math.atan2(from.y - apex.y, from.x - apex.x) + turnOf(shape) * share;
  return { x: apex.x + radius * Math.cos(at), y: apex.y + radius * Math.sin(at) };
}

/** An angle about its apex, measured and kept. */
export const angle = between<Angle>(
  1,
  (shape) => ({
    lines: [[shape.from, shape.apex, shape.to], Array.from({ length: PIECES + 1 }, (_, i) => onArc(shape, i / PIECES))],
    fill: "none",
  }),
  {
    anchor: (shape) => onArc(shape, 0.5),
    handles: ({ from, to, apex }) => [from, to, apex],
    reshaped: (shape, handle, at) =>
      handle === 0 ? { ...shape, from: at } : handle === 1 ? { ...shape, to: at } : { ...shape, apex: at },
    moved: (shape, dx, dy) => ({
      ...shape,
      from: { x: shape.from.x + dx, y: shape.from.y + dy },
      to: { x: shape.to.x + dx, y: shape.to.y + dy },
      apex: { x: shape.apex.x + dx, y: shape.apex.y + dy },
    }),
    hasSize: ({ from, to, apex }) => (from.x !== apex.x || from.y !== apex.y) && (to.x !== apex.x || to.y !== apex.y),
  },
);

/** From the middle of a circle to a point on it, measured and kept. */
export const radius = between<Radius>(11, ({ from, to }, detail) => {
  const half = detail / 2;
  return {
    lines: [
      [from, to],
      head(from, to, detail),
      [
        { x: from.x - half, y: from.y },
        { x: from.x + half, y: from.y },
      ],
      [
        { x: from.x, y: from.y - half },
        { x: from.x, y: from.y + half },
      ],
    ],
    fill: "none",
  };
});
