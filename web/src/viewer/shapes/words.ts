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

/**
 * A text with its lines broken where they are too long: between words, or within one that is longer than a line.
 * @param width how broad a line may be, in heights of letters; one letter stands on it at least
 */
function broken(text: string, width: number): string {
  // What was rounded on its way through a file breaks at the same letter.
  const most = Math.max(1, Math.floor(width / ADVANCE + 1e-3));
  const lines: string[] = [];
  for (const line of text.split("\n")) {
    let now: string | null = null;
    for (const word of line.split(" ")) {
      if (now !== null && now.length + 1 + word.length <= most) {
        now = `${now} ${word}`;
        continue;
      }
      if (now !== null) lines.push(now);
      now = word;
      while (now.length > most) {
        // A letter of two halves is not parted.
        const cut = !/[\uD800-\uDBFF]/.test(now[most - 1]!) ? most : most > 1 ? most - 1 : 2;
        if (cut >= now.length) break;
        lines.push(now.slice(0, cut));
        now = now.slice(cut);
      }
    }
    lines.push(now ?? "");
  }
  return lines.join("\n");
}

const laid = ({ at, text, height, width }: WrittenWords): OutlineWords => ({
  at,
  text: width ? broken(text, width / height) : text,
  height,
  endsThere: false,
});

/** Words on the sheet. Their handle stands where their lines are broken. */
export const words: ShapeKind<WrittenWords> = {
  detail: 1,
  outline: (shape) => ({ lines: [], fill: "none", words: laid(shape) }),
  label: ({ at }) => at,
  anchor: ({ at }) => at,
  handles: (shape) => {
    const [least, most] = roomOf(laid(shape));
    return [{ x: shape.width ? shape.at.x + shape.width : most.x, y: (least.y + most.y) / 2 }];
  },
  reshaped: (shape, _, to) => ({ ...shape, width: Math.max(2 * ADVANCE * shape.height, to.x - shape.at.x) }),
  moved: (shape, dx, dy) => ({ ...shape, at: by(shape.at, dx, dy) }),
  hasSize: ({ text, height }) => areWords(text, height),
};
