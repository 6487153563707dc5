import type { Count, Point, Stamp } from "../../api/types";
import { by, type ShapeKind } from "./shape";
import { areWords, LEADING, roomOf } from "./words";

/** Between a stamp's frame and its words, and between its two lines, in heights of letters. */
const BESIDE = 1;
const ABOVE = 0.6;
const BETWEEN = 0.35;

/** The words of a stamp, and the frame's lower right corner. */
function laid({ at, text, height }: Stamp) {
  const words = { at: by(at, BESIDE * height, -ABOVE * height), text, height, endsThere: false };
  const [least, most] = roomOf(words);
  return { words, right: most.x + BESIDE * height, bottom: least.y - ABOVE * height };
}

/** Words in a double frame, with who put them there and when. */
export const stamp: ShapeKind<Stamp> = {
  detail: 1,
  outline: (shape) => {
    const { at, height } = shape;
    const { words, right, bottom } = laid(shape);
    const frame = (within: number): Point[] => [
      { x: at.x + within, y: at.y - within },
      { x: right - within, y: at.y - within },
      { x: right - within, y: bottom + within },
      { x: at.x + within, y: bottom + within },
      { x: at.x + within, y: at.y - within },
    ];
    return { lines: [frame(0), frame(BETWEEN * height)], fill: "tint", words };
  },
  label: (shape) => ({ x: laid(shape).right, y: shape.at.y }),
  anchor: (shape) => {
    const { right, bottom } = laid(shape);
    return { x: (shape.at.x + right) / 2, y: (shape.at.y + bottom) / 2 };
  },
  handles: () => [],
  reshaped: (shape) => shape,
  moved: (shape, dx, dy) => ({ ...shape, at: by(shape.at, dx, dy) }),
  hasSize: ({ text, height }) => areWords(text, height),
};

const PIECES = 36;
/** Where on the circle the number of its note stands. */
const LABEL = 4;
/** What a digit takes of its line, and the circle's radius about one of them, in heights of letters. */
const DIGIT = 0.68;
const RADIUS = 1.05;

const around = ({ at, number, height }: Count, piece: number): Point => {
  const radius = height * (RADIUS + ((`${number}`.length - 1) * DIGIT) / 2);
  const angle = (2 * Math.PI * (piece % PIECES)) / PIECES;
  return { x: at.x + radius * Math.cos(angle), y: at.y + radius * Math.sin(angle) };
};

/** One of several things that are counted: a number in a circle. */
export const count: ShapeKind<Count> = {
  detail: 1,
  outline: (shape) => {
    const { at, number, height } = shape;
    const text = `${number}`;
    return {
      lines: [Array.from({ length: PIECES + 1 }, (_, i) => around(shape, i))],
      fill: "tint",
      words: {
        at: by(at, (-text.length * DIGIT * height) / 2, (LEADING * height) / 2),
        text,
        height,
        endsThere: false,
      },
    };
  },
  label: (shape) => around(shape, LABEL),
  anchor: ({ at }) => at,
  handles: () => [],
  reshaped: (shape) => shape,
  moved: (shape, dx, dy) => ({ ...shape, at: by(shape.at, dx, dy) }),
  hasSize: ({ number, height }) => number >= 1 && height > 0,
};
