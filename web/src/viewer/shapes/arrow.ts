import type { Arrow, Point } from "../../api/types";
import type { ShapeKind } from "./shape";

/** The angle between its shaft and each of its wings, in radians. */
const WING = 0.4;

/** An arrow from where its words stand to what it points at. */
export const arrow: ShapeKind<Arrow> = {
  detail: 11,
  outline({ from, to }, detail) {
    const angle = Math.atan2(to.y - from.y, to.x - from.x);
    const end = (turn: number): Point => ({
      x: to.x - detail * Math.cos(angle + turn),
      y: to.y - detail * Math.sin(angle + turn),
    });
    return {
      lines: [
        [from, to],
        [end(WING), to, end(-WING)],
      ],
      fills: false,
    };
  },
  label: ({ from }) => from,
  anchor: ({ to }) => to,
  handles: ({ from, to }) => [from, to],
  reshaped: (shape, handle, to) => (handle === 0 ? { ...shape, from: to } : { ...shape, to }),
  moved: (shape, dx, dy) => ({
    ...shape,
    from: { x: shape.from.x + dx, y: shape.from.y + dy },
    to: { x: shape.to.x + dx, y: shape.to.y + dy },
  }),
  hasSize: ({ from, to }) => from.x !== to.x || from.y !== to.y,
};
