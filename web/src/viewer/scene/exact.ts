import type { EdgeFacts, FaceFacts, Point3 } from "../../api/types";
import type { V3 } from "../camera/eye";
import type { Placement } from "./tree";

/** A line of what is said of something picked. */
export type FactLine = { words: string; value: string };

const kinds: Readonly<Record<FaceFacts["surface"], string>> = {
  plane: "Plane",
  cylinder: "Cylinder",
  cone: "Cone",
  sphere: "Sphere",
  torus: "Torus",
  free: "Free-form face",
};
const curves: Readonly<Record<EdgeFacts["curve"], string>> = {
  line: "Straight edge",
  circle: "Circle",
  ellipse: "Ellipse",
  free: "Free-form edge",
};

const number = (value: number, digits: number) =>
  new Intl.NumberFormat("en-GB", { maximumFractionDigits: digits, minimumFractionDigits: digits })
    // What rounds to nothing has no sign.
    .format(Number(value.toFixed(digits)) + 0)
    .replaceAll(",", "\u202f");

/** A length with the unit that it is in; a file that states none has none. @param off how far it may be off: it is told no more exactly */
export const lengthWords = (value: number, unit: string, off = 0) =>
  `${number(value, off > 0 ? Math.max(0, Math.min(3, -Math.floor(Math.log10(off)))) : 3)}${unit ? ` ${unit}` : ""}`;
export const degreesWords = (value: number) => `${number(value, 3)}°`;
export const areaWords = (value: number, unit: string) =>
  `${number(value, value < 100 ? 2 : 0)}${unit ? ` ${unit}²` : ""}`;
export const volumeWords = (value: number, unit: string) =>
  `${number(value, value < 100 ? 2 : 0)}${unit ? ` ${unit}³` : ""}`;

/** A mass from a volume in mm³ and a density in g/cm³. */
export const massWords = (volume: number, density: number) => gramsWords((volume / 1000) * density);

/** A mass in grams, in the unit it is read in best. */
export const gramsWords = (grams: number) => (grams < 1000 ? `${number(grams, 1)} g` : `${number(grams / 1000, 3)} kg`);

/** A direction of a part in the model, in words where it lies along an axis. */
export function directionWords(along: V3): string {
  const axes = ["x", "y", "z"];
  const largest = axes.findIndex((_, k) => Math.abs(along[k]!) > 0.9999995);
  return largest >= 0 ? `along ${axes[largest]!}` : along.map((n) => number(n, 4)).join(", ");
}

/** A point or direction of a part, in the model. */
export const inModel = (m: Placement, p: Point3, isDirection: boolean): V3 =>
  [0, 1, 2].map(
    (r) => m[4 * r]! * p.x + m[4 * r + 1]! * p.y + m[4 * r + 2]! * p.z + (isDirection ? 0 : m[4 * r + 3]!),
  ) as unknown as V3;

/** A point in the model, coordinate by coordinate. */
export const pointWords = (p: V3) => p.map((n) => number(n, 3)).join(", ");

/** What is said of a face. @param at where its part stands */
export function faceLines(face: FaceFacts, at: Placement, unit: string): { title: string; lines: FactLine[] } {
  const lines: FactLine[] = [];
  const round = face.surface === "cylinder" || face.surface === "sphere";
  if (round) {
    lines.push({ words: "Diameter", value: `Ø ${lengthWords(face.radius * 2, unit)}` });
    lines.push({ words: "Radius", value: lengthWords(face.radius, unit) });
  } else if (face.surface === "torus") {
    lines.push({ words: "Radius of its tube", value: lengthWords(face.minor, unit) });
    lines.push({ words: "Radius of its middle", value: lengthWords(face.radius, unit) });
  } else if (face.surface === "cone")
    lines.push({ words: "Half angle", value: `${number((Math.abs(face.minor) * 180) / Math.PI, 3)}°` });
  if (face.surface === "plane") lines.push({ words: "Looks", value: directionWords(inModel(at, face.along, true)) });
  else if (face.surface !== "free" && face.surface !== "sphere")
    lines.push({ words: "Axis", value: directionWords(inModel(at, face.along, true)) });
  if (face.area !== null) lines.push({ words: "Area", value: areaWords(face.area, unit) });
  const title = face.surface === "cylinder" && face.isHollow ? "Bore" : kinds[face.surface];
  return { title, lines };
}

/** What is said of an edge. */
export function edgeLines(edge: EdgeFacts, at: Placement, unit: string): { title: string; lines: FactLine[] } {
  const lines: FactLine[] = [];
  const isArc = edge.curve === "circle" && edge.length !== null && edge.length < 2 * Math.PI * edge.radius * 0.9999;
  if (edge.curve === "circle") {
    lines.push({ words: "Diameter", value: `Ø ${lengthWords(edge.radius * 2, unit)}` });
    lines.push({ words: "Radius", value: lengthWords(edge.radius, unit) });
    lines.push({
      words: "Centre",
      value: pointWords(inModel(at, edge.at, false)),
    });
  }
  if (edge.length !== null) lines.push({ words: "Length", value: lengthWords(edge.length, unit) });
  if (edge.curve === "line") lines.push({ words: "Direction", value: directionWords(inModel(at, edge.along, true)) });
  return { title: isArc ? "Arc" : curves[edge.curve], lines };
}

/** What is said of the end of an edge. @param near where it was picked, in the model */
export function cornerLines(
  edge: EdgeFacts,
  at: Placement,
  near: V3,
  unit: string,
): { title: string; lines: FactLine[] } {
  const ends = edge.points.map((p) => inModel(at, p, false));
  const far = (p: V3) => Math.hypot(p[0] - near[0], p[1] - near[1], p[2] - near[2]);
  const end = [...ends].sort((p, q) => far(p) - far(q))[0] ?? near;
  const lines = ["x", "y", "z"].map((axis, k) => ({ words: axis, value: lengthWords(end[k]!, unit) }));
  return { title: "End of an edge", lines };
}

/** How sure the values are. */
export const surenessWords = (known: { isRecognised: boolean }, isExact: boolean, deviation: number, unit: string) =>
  !isExact
    ? `from the mesh${deviation > 0 ? `, ±${lengthWords(deviation, unit)}` : ""}`
    : known.isRecognised
      ? "recognised within 0.0001 mm"
      : "exact";
