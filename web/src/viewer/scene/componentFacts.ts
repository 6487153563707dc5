import type { ExactFacts, SceneFacts } from "../../api/types";
import type { Hit } from "./hit";
import {
  areaWords,
  cornerLines,
  inModel,
  pointWords,
  edgeLines,
  faceLines,
  lengthWords,
  massWords,
  surenessWords,
  volumeWords,
  type FactLine,
} from "./exact";
import type { SceneTree } from "./tree";

/** What is known of a model, and what of it is taken. */
type Known = {
  tree: SceneTree;
  facts: SceneFacts;
  /** Not known until something was taken. */
  exact: ExactFacts | undefined;
  taken: Hit | null;
  unit: string;
  /** How many millimetres the unit has; null where none is known. */
  millimetres: number | null;
  /** What somebody says that parts weigh, g/cm³. */
  density: Readonly<Record<number, string>>;
  setDensity: (part: number, value: string) => void;
  /** The sizes of the smallest box about the part that is picked, once they are known. */
  turned: readonly number[] | undefined;
};

const pointOf = ([x = 0, y = 0, z = 0]: readonly number[]) => ({ x, y, z });
const timesWords = (sizes: readonly number[]) => sizes.map((n) => lengthWords(n, "")).join(" × ");
const productOf = (sizes: readonly number[]) => sizes.reduce((product, n) => product * n, 1);

/** What is said of a component, and of the face or edge of it that is taken. */
export function factsOf(
  component: number,
  now: Known,
): {
  title: string;
  of: string | null;
  lines: FactLine[];
  sureness: string;
  density: { value: string; onChange: (value: string) => void } | null;
} {
  const { tree, facts, exact, taken, unit, millimetres, density, setDensity, turned } = now;
  const { part: index } = tree.components[component]!;
  const title = tree.wordsOf(component);
  if (index === null)
    return {
      title,
      of: `${tree.within(component).filter((c) => tree.components[c]!.part !== null).length} pieces`,
      lines: [],
      sureness: "",
      density: null,
    };
  const part = facts.parts[index]!;
  const known = exact?.parts[index];
  const at = tree.placed[component]!;
  if (taken?.component === component && known) {
    const edge = taken.edge === null ? undefined : known.edges[taken.edge];
    const face = known.faces[taken.face];
    const said =
      edge && taken.isCorner
        ? cornerLines(edge, at, taken.point, unit)
        : edge
          ? edgeLines(edge, at, unit)
          : face
            ? faceLines(face, at, unit)
            : null;
    const isExact =
      part.isExact && (edge ? edge.curve !== "free" || taken.isCorner === true : face?.surface !== "free");
    if (said && said.lines.length > 0)
      return {
        title,
        of: said.title,
        lines: said.lines,
        sureness: surenessWords(edge ?? face!, isExact, part.deviation, unit),
        density: null,
      };
  }
  const typed = density[index] ?? "";
  const stated = part.density ?? Number(typed.replace(",", "."));
  const size = part.box ? [0, 1, 2].map((k) => part.box![k + 3]! - part.box![k]!) : null;
  const lines: FactLine[] = [
    ...(part.material ? [{ words: "Material", value: part.material }] : []),
    ...(part.volume !== null ? [{ words: "Volume", value: volumeWords(part.volume, unit) }] : []),
    { words: "Area", value: areaWords(part.area, unit) },
    ...(part.volume !== null && stated > 0 && millimetres !== null
      ? [{ words: `Mass at ${stated} g/cm³`, value: massWords(part.volume * millimetres ** 3, stated) }]
      : []),
    ...(part.centre ? [{ words: "Centre of mass", value: pointWords(inModel(at, pointOf(part.centre), false)) }] : []),
    ...(size ? [{ words: "Box", value: timesWords(size) }] : []),
    // Told where it is smaller than the one along the axes, by more than rounding.
    ...(size && turned && productOf(turned) < 0.999 * productOf(size)
      ? [{ words: "Smallest box, turned", value: timesWords(turned) }]
      : []),
  ];
  return {
    title,
    of: tree.quantityOf(index) > 1 ? `one of ${tree.quantityOf(index)}` : null,
    lines,
    sureness: part.isExact ? "exact" : "from the mesh",
    density:
      part.density === null && part.volume !== null && millimetres !== null
        ? { value: typed, onChange: (value) => setDensity(index, value) }
        : null,
  };
}

/** What some components cover. */
export function boxOf(tree: SceneTree, facts: SceneFacts, components: readonly number[]): readonly number[] {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (const c of components) {
    const own = facts.parts[tree.components[c]!.part ?? -1]?.box;
    if (!own) continue;
    const m = tree.placed[c]!;
    for (let i = 0; i < 8; i++)
      for (let r = 0; r < 3; r++) {
        const value =
          m[4 * r]! * own[i & 1 ? 3 : 0]! +
          m[4 * r + 1]! * own[i & 2 ? 4 : 1]! +
          m[4 * r + 2]! * own[i & 4 ? 5 : 2]! +
          m[4 * r + 3]!;
        box[r] = Math.min(box[r]!, value);
        box[r + 3] = Math.max(box[r + 3]!, value);
      }
  }
  return box[0]! <= box[3]! ? box : (facts.box ?? [0, 0, 0, 1, 1, 1]);
}

/** Densities that were typed, as the parts list is asked with: what is no number is left out. */
export const densityWords = (density: Readonly<Record<number, string>>) =>
  Object.entries(density)
    .map(([part, typed]) => [part, Number(typed.replace(",", "."))] as const)
    .filter(([, value]) => value > 0 && value <= 25)
    .map(([part, value]) => `${part}:${value}`)
    .join(",");
