import type { Cloud, Point } from "../../api/types";
import type { ShapeKind } from "./shape";

/** Straight pieces in one scallop. */
const PIECES = 6;
/** Most scallops on a side. */
const MOST = 400;
/** A scallop's rise over its chord's half. */
const RISE = 0.7;

/** A revision cloud round a rectangle given by two opposite corners. */
export const cloud: ShapeKind<Cloud> = {
  detail: 16,
  outline({ from, to }, detail) {
    const [left, right] = [Math.min(from.x, to.x), Math.max(from.x, to.x)];
    const [bottom, top] = [Math.min(from.y, to.y), Math.max(from.y, to.y)];
    const corners: Point[] = [
      { x: left, y: top },
      { x: right, y: top },
      { x: right, y: bottom },
      { x: left, y: bottom },
    ];
    const line: Point[] = [corners[0]!];
    for (let side = 0; side < 4; side++) {
      const [a, b] = [corners[side]!, corners[(side + 1) % 4]!];
      // Going round clockwise, the outside lies to the left.
      const [dx, dy] = [b.x - a.x, b.y - a.y];
      const count = Math.min(MOST, Math.max(1, Math.round((Math.abs(dx) + Math.abs(dy)) / detail)));
      const [rx, ry] = [(-dy / count / 2) * RISE, (dx / count / 2) * RISE];
      for (let i = 1; i <= count * PIECES; i++) {
        const angle = (Math.PI * (i % PIECES)) / PIECES;
        const along = (Math.floor(i / PIECES) + (1 - Math.cos(angle)) / 2) / count;
        const rise = Math.sin(angle);
        line.push({ x: a.x + dx * along + rx * rise, y: a.y + dy * along + ry * rise });
      }
    }
    return { lines: [line], fills: true };
  },
  label: ({ from, to }) => ({ x: Math.max(from.x, to.x), y: Math.max(from.y, to.y) }),
  anchor: ({ from, to }) => ({ x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 }),
  // Round from the corner it was drawn from, so that opposite handles are two apart.
  handles: ({ from, to }) => [from, { x: to.x, y: from.y }, to, { x: from.x, y: to.y }],
  reshaped(shape, handle, to) {
    const across = cloud.handles(shape)[(handle + 2) % 4]!;
    // The corner across stays; which of the two is “from” stays as well, so that a handle keeps its number.
    return handle === 0
      ? { ...shape, from: to }
      : handle === 2
        ? { ...shape, to }
        : handle === 1
          ? { ...shape, from: { x: across.x, y: to.y }, to: { x: to.x, y: across.y } }
          : { ...shape, from: { x: to.x, y: across.y }, to: { x: across.x, y: to.y } };
  },
  moved: (shape, dx, dy) => ({
    ...shape,
    from: { x: shape.from.x + dx, y: shape.from.y + dy },
    to: { x: shape.to.x + dx, y: shape.to.y + dy },
  }),
  hasSize: ({ from, to }) => from.x !== to.x && from.y !== to.y,
};
