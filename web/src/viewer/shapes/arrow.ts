import type { Leader, Point } from "../../api/types";
import type { Of, OutlineWords } from "./shape";
import { between } from "./twoPoints";
import { areWords, LEADING } from "./words";

/** The angle between an arrow's shaft and each of its wings, in radians. */
const WING = 0.4;

/** The head of an arrow: two wings. */
export function head(from: Point, to: Point, length: number): Point[] {
  const angle = Math.atan2(to.y - from.y, to.x - from.x);
  const end = (turn: number): Point => ({
    x: to.x - length * Math.cos(angle + turn),
    y: to.y - length * Math.sin(angle + turn),
  });
  return [end(WING), to, end(-WING)];
}

/** An arrow from where its words stand to what it points at. */
export const arrow = between<Of<"arrow">>(
  11,
  ({ from, to }, detail) => ({ lines: [[from, to], head(from, to, detail)], fill: "none" }),
  { label: ({ from }) => from, anchor: ({ to }) => to },
);

const landingOf = ({ from, to, height }: Leader): Point => ({
  x: from.x + (to.x > from.x ? -1 : 1) * height,
  y: from.y,
});

/** An arrow with words at its beginning, on the side that it does not point to. */
export const leader = between<Leader>(
  11,
  (shape, detail) => {
    const { from, to, text, height } = shape;
    const endsThere = to.x > from.x;
    const landing = landingOf(shape);
    const words: OutlineWords = {
      at: { x: landing.x + (endsThere ? -0.4 : 0.4) * height, y: from.y + (height * LEADING) / 2 },
      ...{ text, height, endsThere },
    };
    return { lines: [[landing, from, to], head(from, to, detail)], fill: "none", words };
  },
  {
    label: landingOf,
    anchor: ({ to }) => to,
    hasSize: ({ from, to, text, height }) => (from.x !== to.x || from.y !== to.y) && areWords(text, height),
  },
);
