import { type Matrix4, Vector3 } from "three";
import { placeOf, type Eye, type V3 } from "./eye";
import { stretchAt, type PartMesh } from "./partBlock";

/** An edge is taken within so many CSS pixels. */
const NEAR = 6;
/** Of the window's height: an edge that lies so much deeper than what was hit is another's. */
const DEEPER = 0.02;

type At = { x: number; y: number; width: number; height: number };

/**
 * The edge of a part that is nearest to a place of the window, by its number in the file; null where none is near, or only such as lie behind
 * what was hit.
 * @param placed from the part's coordinates to those about `centre`
 */
export function edgeNear(part: PartMesh, placed: Matrix4, centre: V3, eye: Eye, { x, y, width, height }: At, hit: V3) {
  const deepest = placeOf(eye, hit, width, height).depth + eye.height * DEEPER;
  const point = new Vector3();
  const seen = (i: number) => {
    point.fromArray(part.strokes, i).applyMatrix4(placed);
    return placeOf(eye, [point.x + centre[0], point.y + centre[1], point.z + centre[2]], width, height);
  };
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
  return best < 0 ? null : stretchAt(part.lineStarts, best);
}
