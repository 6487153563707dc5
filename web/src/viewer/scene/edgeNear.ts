import { type Matrix4, Vector3 } from "three";
import { placeOf, type Eye, type V3 } from "../camera/eye";
import { stretchAt, type PartMesh } from "./partBlock";

/** An edge is taken within so many CSS pixels. */
const NEAR = 6;
/** Of the window's height: an edge that lies so much deeper than what was hit is another's. */
const DEEPER = 0.02;

type At = { x: number; y: number; width: number; height: number };

/** An edge, and its end where that is near: in the model. */
export type EdgeNear = { edge: number; end: V3 | null };

/** Two chords that go on from one another bend no more: minus the cosine. */
const STRAIGHT = 0.93;

/** Whether an edge ends at a corner, and not where another goes on from it, as arcs of one circle do. @param last 0 for its beginning, 1 for its end */
function isCorner({ strokes, lineStarts }: PartMesh, edge: number, last: number): boolean {
  /** Where a line ends, and the way from there along it. */
  const endOf = (line: number, end: number) => {
    const [from, to] = [lineStarts[line]!, lineStarts[line + 1]!];
    const i = end === 0 ? from * 6 : to * 6 - 3;
    const back = end === 0 ? i + 3 : i - 3;
    const at = [strokes[i]!, strokes[i + 1]!, strokes[i + 2]!];
    const way = at.map((n, k) => strokes[back + k]! - n);
    return { at, way, long: Math.hypot(...way) || 1 };
  };
  const own = endOf(edge, last);
  const near = own.long * 1e-3;
  for (let line = 0; line + 1 < lineStarts.length; line++)
    for (const end of [0, 1]) {
      if (lineStarts[line] === lineStarts[line + 1] || (line === edge && end === last)) continue;
      const { at, way, long } = endOf(line, end);
      if (at.some((n, k) => Math.abs(n - own.at[k]!) > near)) continue;
      if (way.reduce((sum, n, k) => sum + n * own.way[k]!, 0) < -STRAIGHT * long * own.long) return false;
    }
  return true;
}

/**
 * The edge of a part that is nearest to a place of the window, by its number in the file, and its end if that is as near; null where none is
 * near, or only such as lie behind what was hit. A line that comes back to where it began has no end.
 * @param placed from the part's coordinates to those about `centre`
 */
export function edgeNear(
  part: PartMesh,
  placed: Matrix4,
  centre: V3,
  eye: Eye,
  { x, y, width, height }: At,
  hit: V3,
): EdgeNear | null {
  const deepest = placeOf(eye, hit, width, height).depth + eye.height * DEEPER;
  const point = new Vector3();
  const inModel = (i: number): V3 => {
    point.fromArray(part.strokes, i).applyMatrix4(placed);
    return [point.x + centre[0], point.y + centre[1], point.z + centre[2]];
  };
  const seen = (i: number) => placeOf(eye, inModel(i), width, height);
  let [nearest, best] = [NEAR, -1];
  for (let i = 0; i < part.strokes.length; i += 6) {
    const [p, q] = [seen(i), seen(i + 3)];
    const [dx, dy] = [q.x - p.x, q.y - p.y];
    const long = dx * dx + dy * dy;
    const share = long === 0 ? 0 : Math.max(0, Math.min(1, ((x - p.x) * dx + (y - p.y) * dy) / long));
    if (p.depth + (q.depth - p.depth) * share > deepest) continue;
    const away = Math.hypot(p.x + dx * share - x, p.y + dy * share - y);
    if (away < nearest) [nearest, best] = [away, i / 6];
  }
  if (best < 0) return null;
  const edge = stretchAt(part.lineStarts, best);
  const ends = [part.lineStarts[edge]! * 6, part.lineStarts[edge + 1]! * 6 - 3];
  const [first, last] = ends.map(inModel) as [V3, V3];
  if (Math.hypot(first[0] - last[0], first[1] - last[1], first[2] - last[2]) < 1e-6 * eye.height)
    return { edge, end: null };
  const away = ends.map(seen).map((p) => Math.hypot(p.x - x, p.y - y));
  const [near, end, i] = away[0]! <= away[1]! ? [away[0]!, first, 0] : [away[1]!, last, 1];
  return { edge, end: near < NEAR && isCorner(part, edge, i) ? end : null };
}
