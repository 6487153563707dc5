import type { Point } from "../../api/types";
import { paths, twiceArea, uppermost } from "./path";
import type { Of } from "./shape";
import { cornersOf, middleOf, round } from "./twoPoints";

/** Straight pieces in one scallop. */
const PIECES = 6;
/** Most scallops on a side. */
const MOST = 400;
/** A scallop's rise over its chord's half. */
const RISE = 0.7;

/** A closed line of scallops along the sides between corners that go round clockwise. */
function scallops(corners: readonly Point[], length: number): Point[] {
  const line: Point[] = [corners[0]!];
  for (const [side, a] of corners.entries()) {
    const b = corners[(side + 1) % corners.length]!;
    // Going round clockwise, the outside lies to the left.
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const count = Math.min(MOST, Math.max(1, Math.round(Math.sqrt(dx * dx + dy * dy) / length)));
    const [rx, ry] = [(-dy / count / 2) * RISE, (dx / count / 2) * RISE];
    for (let i = 1; i <= count * PIECES; i++) {
      const angle = (Math.PI * (i % PIECES)) / PIECES;
      const along = (Math.floor(i / PIECES) + (1 - Math.cos(angle)) / 2) / count;
      const rise = Math.sin(angle);
      line.push({ x: a.x + dx * along + rx * rise, y: a.y + dy * along + ry * rise });
    }
  }
  return line;
}

/** A revision cloud round a rectangle. */
export const cloud = round<Of<"cloud">>(16, (shape, detail) => ({
  lines: [scallops(cornersOf(shape), detail)],
  fill: "tint",
}));

/** A revision cloud round what some points enclose. */
export const cloudPath = paths<Of<"cloudPath">>(
  16,
  ({ points }, detail) => ({
    lines: [scallops(twiceArea(points) > 0 ? [...points].reverse() : points, detail)],
    fill: "tint",
  }),
  {
    least: 3,
    label: ({ points }) => uppermost(points),
    anchor({ points }) {
      const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
      return middleOf({
        from: { x: Math.min(...xs), y: Math.min(...ys) },
        to: { x: Math.max(...xs), y: Math.max(...ys) },
      });
    },
  },
);

/** A cloud about points, with room between. */
export function cloudAbout(points: readonly Point[]): Of<"cloud"> {
  const [x, y] = [points.map((p) => p.x), points.map((p) => p.y)];
  const [left, right, bottom, top] = [Math.min(...x), Math.max(...x), Math.min(...y), Math.max(...y)];
  const room = 0.3 * Math.min(right - left, top - bottom);
  return { shape: "cloud", from: { x: left - room, y: bottom - room }, to: { x: right + room, y: top + room } };
}
