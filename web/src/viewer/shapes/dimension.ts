import type { Dimension, Point } from "../../api/types";
import { between, middleOf } from "./twoPoints";

export const lengthOf = ({ from, to }: { from: Point; to: Point }) =>
  Math.sqrt((to.x - from.x) * (to.x - from.x) + (to.y - from.y) * (to.y - from.y));

/** The ends of the line that bears the value. */
function ends({ from, to, offset }: Dimension): [Point, Point] {
  const length = lengthOf({ from, to });
  const [x, y] = length > 0 ? [(-(to.y - from.y) / length) * offset, ((to.x - from.x) / length) * offset] : [0, 0];
  return [
    { x: from.x + x, y: from.y + y },
    { x: to.x + x, y: to.y + y },
  ];
}

/** How far a point lies to the left of the way from one point to another. */
export function offsetTo({ from, to }: { from: Point; to: Point }, p: Point): number {
  const length = lengthOf({ from, to });
  return length > 0 ? ((to.x - from.x) * (p.y - from.y) - (to.y - from.y) * (p.x - from.x)) / length : 0;
}

/** A length between two points with its extension lines and the line that bears its value (ISO 129-1); the value is said by whoever draws it. */
export const dimension = between<Dimension>(
  6,
  (shape, detail) => {
    const { from, to } = shape;
    const [a, b] = ends(shape);
    // While it is taken hold of, its ends may lie upon each other.
    const length = lengthOf(shape) || 1;
    const [ux, uy] = [(((to.x - from.x) / length) * detail) / 2, (((to.y - from.y) / length) * detail) / 2];
    // The strokes at the ends lean by an eighth of a turn to the line.
    const stroke = (p: Point): Point[] => [
      { x: p.x - ux + uy, y: p.y - uy - ux },
      { x: p.x + ux - uy, y: p.y + uy + ux },
    ];
    return { lines: [[from, a], [to, b], [a, b], stroke(a), stroke(b)], fill: "none" };
  },
  {
    label: (shape) => ends(shape)[1],
    anchor(shape) {
      const [from, to] = ends(shape);
      return middleOf({ from, to });
    },
    handles: (shape) => {
      const [from, to] = ends(shape);
      return [shape.from, shape.to, middleOf({ from, to })];
    },
    reshaped: (shape, handle, to) =>
      handle === 0
        ? { ...shape, from: to }
        : handle === 1
          ? { ...shape, to }
          : { ...shape, offset: offsetTo(shape, to) },
  },
);
