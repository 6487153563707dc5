import type { BetweenFound, ExactFacts, ModelSpot, Point3, SceneFacts } from "../../api/types";
import { degreesWords, edgeLines, faceLines, lengthWords, surenessWords, type FactLine } from "./exact";
import { standsOn } from "./pins";
import type { V3 } from "../camera/eye";
import type { SceneTree } from "./tree";

/** Where a distance begins and ends, in the model. */
export type Ends = readonly [V3, V3];
/** What a measure comes to, as it stands beside it. */
export type MeasureSaid = { words: string; of: string; sureness: string; ends: Ends | null };

const v3Of = ({ x, y, z }: Point3): V3 => [x, y, z];
const alongLines = (way: readonly number[], unit: string, off = 0): FactLine[] =>
  ["x", "y", "z"].map((axis, k) => ({ words: `along ${axis}`, value: lengthWords(way[k]!, unit, off) }));

/** What is said of how two things lie to one another. */
export function betweenSaid({ exact, least }: BetweenFound, unit: string) {
  const lines: FactLine[] = [];
  const off = least?.deviation ?? 0;
  const meshed = least && off > 0 ? `on the mesh, ± ${lengthWords(off, unit, off / 10)}` : "on the mesh";
  if (exact) {
    if (exact.distance !== null) lines.push({ words: "Distance", value: lengthWords(exact.distance, unit) });
    if (exact.along) lines.push(...alongLines(exact.along, unit));
    if (exact.angle !== null)
      lines.push({ words: "Angle", value: exact.isParallel ? "parallel" : degreesWords(exact.angle) });
  }
  const touches = least?.distance === 0;
  // Beside what they exactly lie on, how near the faces themselves come is told where it is something else.
  if (least && !(exact?.distance != null && Math.abs(exact.distance - least.distance) <= off + 1e-3)) {
    const value = touches ? "they touch" : lengthWords(least.distance, unit, off);
    const words = least.isAtMost ? "Least distance, at most" : "Least distance";
    lines.push({ words: exact ? `${words}, ${meshed}` : words, value });
    if (!exact && !touches) {
      const { from, to } = least;
      lines.push(...alongLines([to.x - from.x, to.y - from.y, to.z - from.z], unit, off));
    }
  }
  const exactEnds = exact?.from && exact.to ? ([v3Of(exact.from), v3Of(exact.to)] as const) : null;
  return {
    of: exact ? exact.of : "Clearance",
    lines,
    sureness: exact ? (exact.isRecognised ? "recognised within 0.0001 mm" : "exact") : meshed,
    ends: exactEnds ?? (least && !touches && !exact ? ([v3Of(least.from), v3Of(least.to)] as const) : null),
  };
}

/** The one value by which a distance or an angle between two things is known. */
export function betweenMeasure(found: BetweenFound, unit: string): MeasureSaid | null {
  const { of, lines, sureness, ends } = betweenSaid(found, unit);
  const wanted = ["Distance", "Angle", "Least distance", "Least distance, at most"];
  const line = wanted.map((words) => lines.find((l) => l.words === words)).find((l) => l !== undefined);
  return line ? { words: line.value, of, sureness, ends } : null;
}

/** The one value by which a face or an edge is known: a diameter, a length, an area. Null where it is not there, or nothing is known of it. */
export function measureOfOne(
  spot: ModelSpot,
  tree: SceneTree,
  facts: SceneFacts,
  exact: ExactFacts,
  unit: string,
): MeasureSaid | null {
  const component = standsOn(tree, spot);
  const part = component === null ? null : tree.components[component]!.part;
  if (part === null) return null;
  const at = tree.placed[component!]!;
  const [face, edge] = [exact.parts[part]?.faces[spot.face ?? -1], exact.parts[part]?.edges[spot.edge ?? -1]];
  const known = edge ?? face;
  // The end of an edge has no size of its own.
  if (!known || spot.isCorner) return null;
  const { title, lines } = edge ? edgeLines(edge, at, unit) : faceLines(face!, at, unit);
  const line = lines.find((l) => ["Diameter", "Length", "Area"].includes(l.words));
  const { deviation, ...own } = facts.parts[part]!;
  const isExact = own.isExact && (edge ? edge.curve : face!.surface) !== "free";
  const sureness = surenessWords(known, isExact, deviation, unit);
  return line ? { words: line.value, of: title, sureness, ends: null } : null;
}
