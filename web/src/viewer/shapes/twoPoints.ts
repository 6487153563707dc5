import type { Point } from "../../api/types";
import { by, type Outline, type ShapeKind } from "./shape";

type TwoPoints = { from: Point; to: Point };

export const middleOf = ({ from, to }: TwoPoints): Point => ({ x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 });

/** The corners of the rectangle between two points, clockwise from its upper left. */
export function cornersOf({ from, to }: TwoPoints): [Point, Point, Point, Point] {
  const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
  const [bottom, top] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
  return [
    { x: left, y: top },
    { x: right, y: top },
    { x: right, y: bottom },
    { x: left, y: bottom },
  ];
}

/** What goes from one point to another. */
export const between = <S extends TwoPoints>(
  detail: number,
  outline: ShapeKind<S>["outline"],
  other: Partial<ShapeKind<S>> = {},
): ShapeKind<S> => ({
  detail,
  outline,
  label: ({ to }) => to,
  anchor: middleOf,
  handles: ({ from, to }) => [from, to],
  reshaped: (shape, handle, to) => (handle === 0 ? { ...shape, from: to } : { ...shape, to }),
  moved: (shape, dx, dy) => ({ ...shape, from: by(shape.from, dx, dy), to: by(shape.to, dx, dy) }),
  hasSize: ({ from, to }) => from.x !== to.x || from.y !== to.y,
  ...other,
});

// Round from the corner it was drawn from, so that opposite handles are two apart.
const handles = ({ from, to }: TwoPoints): Point[] => [from, { x: to.x, y: from.y }, to, { x: from.x, y: to.y }];

/** What goes round the rectangle between two opposite corners. */
export const round = <S extends TwoPoints>(
  detail: number,
  outline: ShapeKind<S>["outline"],
  label: ShapeKind<S>["label"] = (shape) => cornersOf(shape)[1],
): ShapeKind<S> =>
  between<S>(detail, outline, {
    label,
    handles,
    reshaped(shape, handle, to) {
      const across = handles(shape)[(handle + 2) % 4]!;
      // The corner across stays; which of the two is “from” stays as well, so that a handle keeps its number.
      return handle === 0
        ? { ...shape, from: to }
        : handle === 2
          ? { ...shape, to }
          : handle === 1
            ? { ...shape, from: { x: across.x, y: to.y }, to: { x: to.x, y: across.y } }
            : { ...shape, from: { x: to.x, y: across.y }, to: { x: across.x, y: to.y } };
    },
    hasSize: ({ from, to }) => from.x !== to.x && from.y !== to.y,
  });

/** A closed line. */
export const closed = (points: readonly Point[], fill: Outline["fill"]): Outline => ({
  lines: [[...points, points[0]!]],
  fill,
});
