import { outlineOf } from "../viewer/shapes";
import type { Shape } from "../api/types";
import type { Alike } from "../viewer/alike";
import type { Lying } from "./lying";

/** From how many on markups that look alike are drawn as one. */
const MANY = 400;

type Batched = { apart: readonly Lying[]; together: readonly Alike[] };

/**
 * Parts the markups of a busy sheet: what has words, a value, or is picked is drawn by itself; the others with those that look alike.
 * @param isApart what is picked, or being dragged
 */
export function batched(
  marks: readonly Lying[],
  isApart: (mark: Lying) => boolean,
  classOf: (mark: Lying) => string,
  valueOf: (shape: Shape) => string | null,
): Batched {
  if (marks.length < MANY) return { apart: marks, together: [] };
  const apart: Lying[] = [];
  const together = new Map<string, Omit<Alike, "shapes"> & { shapes: Shape[] }>();
  for (const mark of marks) {
    const { fill, words, lines } = outlineOf(mark.shape, 1);
    if (
      words ||
      mark.shape.shape === "picture" ||
      lines.length === 0 ||
      isApart(mark) ||
      valueOf(mark.shape) !== null
    ) {
      apart.push(mark);
      continue;
    }
    const look = {
      className: classOf(mark),
      pen: mark.look,
      fill,
      isCarried: mark.from !== null,
      isFaint: mark.note?.standing === "closed",
    };
    const { line, width, isTinted } = look.pen;
    const key = [look.className, line, width, isTinted, fill, look.isCarried, look.isFaint].join(" ");
    const alike = together.get(key) ?? { key, ...look, shapes: [] };
    alike.shapes.push(mark.shape);
    together.set(key, alike);
  }
  return { apart, together: [...together.values()] };
}
