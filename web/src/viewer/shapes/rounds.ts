import type { Of } from "./shape";
import { between, closed, cornersOf, middleOf, round } from "./twoPoints";

export const box = round<Of<"box">>(1, (shape) => closed(cornersOf(shape), "tint"));

/** A picture that was put there; its line is the picture's edge. */
export const picture = round<Of<"picture">>(1, (shape) => closed(cornersOf(shape), "none"));

/** Inked as with a broad pale pen: look here. */
export const highlight = round<Of<"highlight">>(1, (shape) => closed(cornersOf(shape), "highlight"));

/** Straight pieces an ellipse is drawn by. */
const PIECES = 72;

type TwoPoints = Parameters<typeof middleOf>[0];
function onEllipse(shape: TwoPoints, piece: number) {
  const middle = middleOf(shape);
  const [rx, ry] = [Math.abs(shape.to.x - shape.from.x) / 2, Math.abs(shape.to.y - shape.from.y) / 2];
  const angle = (2 * Math.PI * (piece % PIECES)) / PIECES;
  return { x: middle.x + rx * Math.cos(angle), y: middle.y + ry * Math.sin(angle) };
}

export const ellipse = round<Of<"ellipse">>(
  1,
  (shape) => ({ lines: [Array.from({ length: PIECES + 1 }, (_, i) => onEllipse(shape, i))], fill: "tint" }),
  (shape) => onEllipse(shape, PIECES / 8),
);

export const line = between<Of<"line">>(1, ({ from, to }) => ({ lines: [[from, to]], fill: "none" }));

/** Struck through: two strokes side by side over what is to go. */
export const strike = between<Of<"strike">>(6, ({ from, to }, detail) => {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  // While it is drawn, its ends may lie upon each other.
  const length = Math.sqrt(dx * dx + dy * dy) || 1;
  const [nx, ny] = [((-dy / length) * detail) / 2, ((dx / length) * detail) / 2];
  const beside = (side: number) => [
    { x: from.x + side * nx, y: from.y + side * ny },
    { x: to.x + side * nx, y: to.y + side * ny },
  ];
  return { lines: [beside(1), beside(-1)], fill: "none" };
});
