import { useMemo, useState } from "react";
import type { Point3, SceneFacts } from "../../api/types";
import type { Hit } from "./hit";
import { inModel } from "./exact";
import { readPart, type PartMesh } from "./partBlock";
import type { SceneTree } from "./tree";

/** What a model states of one of its parts, and where that is. */
export type Stated = NonNullable<SceneFacts["dimensions"]>[number] & {
  index: number;
  /** The first component of the part. */
  component: number;
  /** On a face that it speaks of, in the part's coordinates. */
  at: Point3;
};

const none: ReadonlySet<number> = new Set();

/** The dimensions, tolerances and datums of a model, and which of them are shown on it. */
export function useStated(tree: SceneTree, facts: SceneFacts, bytes: ArrayBuffer) {
  const all = useMemo(() => {
    const meshes = new Map<number, PartMesh>();
    // What was prepared by an earlier reader has none yet.
    return (facts.dimensions ?? []).flatMap((d, index): Stated[] => {
      const component = tree.components.findIndex((c) => c.part === d.part);
      const { box, block } = facts.parts[d.part]!;
      if (component < 0 || !box) return [];
      const face = d.faces[0];
      let mesh = meshes.get(d.part);
      if (face !== undefined && !mesh) meshes.set(d.part, (mesh = readPart(bytes, block, box)));
      const spot = face === undefined || !mesh ? null : pointOn(mesh, face);
      const [x, y, z] = spot ?? [0, 1, 2].map((k) => (box[k + 3]! - box[k]!) / 2);
      return [{ ...d, index, component, at: { x: box[0]! + x!, y: box[1]! + y!, z: box[2]! + z! } }];
    });
  }, [tree, facts, bytes]);
  const [shown, setShown] = useState<ReadonlySet<number>>(none);
  return {
    all,
    shown: all.filter((d) => shown.has(d.index)),
    isShown: (index: number) => shown.has(index),
    show: (indexes: readonly number[], isOn: boolean) =>
      setShown((was) => new Set(isOn ? [...was, ...indexes] : [...was].filter((i) => !indexes.includes(i)))),
    /** The face that one speaks of, as though it were pressed; null where none is known. */
    hitOf: ({ component, faces: [face], at }: Stated): Hit | null =>
      face === undefined
        ? null
        : { component, face, edge: null, point: inModel(tree.placed[component]!, at, false), normal: [0, 0, 1] },
  };
}

/** A point on a face that lies near its middle. */
function pointOn({ points, corners, faceStarts }: PartMesh, face: number): [number, number, number] | null {
  const [from, to] = [(faceStarts[face] ?? 0) * 3, (faceStarts[face + 1] ?? 0) * 3];
  if (to <= from) return null;
  const of = (i: number) => [0, 1, 2].map((k) => points[3 * corners[i]! + k]!);
  const middle = [0, 0, 0];
  for (let i = from; i < to; i++) of(i).forEach((n, k) => (middle[k]! += n / (to - from)));
  let [best, least] = [from, Infinity];
  for (let i = from; i < to; i++) {
    const far = of(i).reduce((sum, n, k) => sum + (n - middle[k]!) ** 2, 0);
    if (far < least) [best, least] = [i, far];
  }
  return of(best) as [number, number, number];
}
