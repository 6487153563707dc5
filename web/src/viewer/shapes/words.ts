import type { Point, WrittenWords } from "../../api/types";
import { by, type OutlineWords, type ShapeKind } from "./shape";

/** From one line to the next, and what a letter takes of its line on the whole, in heights of letters. */
export const LEADING = 1.6;
const ADVANCE = 0.78;
/** Longest text, in characters. */
export const LONGEST_WORDS = 500;

export const areWords = (text: string, height: number) =>
  text.trim() !== "" && text.length <= LONGEST_WORDS && height > 0;

/** Two opposite corners of the room that words take, near enough to be taken hold of. */
export function roomOf({ at, text, height, endsThere }: OutlineWords): [Point, Point] {
  const lines = text.split("\n");
  const width = Math.max(...lines.map((l) => l.length)) * ADVANCE * height;
  const from = endsThere ? at.x - width : at.x;
  return [
    { x: from, y: at.y - lines.length * LEADING * height },
    { x: from + width, y: at.y },
  ];
}

/** Words on the sheet. */
export const words: ShapeKind<WrittenWords> = {
  detail: 1,
  outline: ({ at, text, height }) => ({ lines: [], fill: "none", words: { at, text, height, endsThere: false } }),
  label: ({ at }) => at,
  anchor: ({ at }) => at,
  handles: () => [],
  reshaped: (shape) => shape,
  moved: (shape, dx, dy) => ({ ...shape, at: by(shape.at, dx, dy) }),
  hasSize: ({ text, height }) => areWords(text, height),
};
