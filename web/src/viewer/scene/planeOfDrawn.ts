import type { Point3 } from "../../api/types";
import { add, cross, lengthOf, minus, times, unit, type V3 } from "../camera/eye";
import type { DrawnOnModel } from "./statedDrawing";

/** The points of what is drawn. */
export const pointsOf = ({ lines, areas }: DrawnOnModel): Point3[] =>
  [...lines, areas].flatMap((along) =>
    Array.from({ length: Math.floor(along.length / 3) }, (_, i) => ({
      x: along[3 * i]!,
      y: along[3 * i + 1]!,
      z: along[3 * i + 2]!,
    })),
  );

/** The plane that something is drawn on, and its middle there; null where it lies on no one plane. */
export function planeOfDrawn(drawn: DrawnOnModel): { at: Point3; normal: Point3 } | null {
  const all = pointsOf(drawn).map(({ x, y, z }): V3 => [x, y, z]);
  if (all.length < 3) return null;
  const first = all[0]!;
  const farthest = (of: (p: V3) => number) => all.reduce((best, p) => (of(p) > of(best) ? p : best), first);
  const along = minus(
    farthest((p) => lengthOf(minus(p, first))),
    first,
  );
  const across = minus(
    farthest((p) => lengthOf(cross(along, minus(p, first)))),
    first,
  );
  const normal = cross(along, across);
  if (lengthOf(normal) < 1e-9 * lengthOf(along) ** 2) return null;
  const middle = times(1 / all.length, all.reduce(add));
  const pointOf = ([x, y, z]: V3) => ({ x, y, z });
  return { at: pointOf(middle), normal: pointOf(unit(normal)) };
}
