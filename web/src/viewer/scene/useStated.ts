import { useChosen } from "./useChosen";
import { useEffect, useMemo, useState, type RefObject } from "react";
import type { Point3, SceneFacts } from "../../api/types";
import type { SceneDrawing } from "./drawing";
import { boxOf } from "./componentFacts";
import { axesOf, dot, fitted, squarely, times, unit, type Eye } from "../camera/eye";
import type { EyeNow } from "./eyeNow";
import type { Hit } from "./hit";
import { planeOfDrawn, pointsOf } from "./planeOfDrawn";
import type { usePicking } from "./usePicking";
import type { useShown } from "./useShown";
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

/** What is moved and picked when one goes to something that is stated. */
type Acts = {
  drawing: RefObject<SceneDrawing | null>;
  parts: ReturnType<typeof useShown>;
  picking: ReturnType<typeof usePicking>;
  eyes: EyeNow;
  move: (eye: Eye, isMoving: boolean) => void;
  size: () => { width: number; height: number };
};

/** The dimensions, tolerances and datums of a model, and which of them are shown on it. */
export function useStated(
  tree: SceneTree,
  facts: SceneFacts,
  bytes: ArrayBuffer,
  [draft, position]: readonly [string, number],
  { drawing, parts, picking, eyes, move, size }: Acts,
) {
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
  const chosen = useChosen(draft, position, all.length > 0);
  /** What somebody who looks has switched on or off; until then it is what was chosen to be shown. */
  const [own, setOwn] = useState<ReadonlySet<number> | null>(null);
  const shown = useMemo(() => own ?? new Set(chosen.data?.shown ?? []), [own, chosen.data]);
  const setShown = (by: (was: ReadonlySet<number>) => ReadonlySet<number>) => setOwn((was) => by(was ?? shown));
  const drawn = useMemo(
    () => all.flatMap(({ index, component, drawn }) => (drawn && shown.has(index) ? [{ component, drawn }] : [])),
    [all, shown],
  );
  useEffect(() => drawing.current?.setStated(drawn), [drawing, drawn]);
  /** The face that one speaks of, as though it were pressed; null where none is known. */
  const hitOf = ({ component, faces: [face], at }: Stated): Hit | null =>
    face === undefined
      ? null
      : { component, face, edge: null, point: inModel(tree.placed[component]!, at, false), normal: [0, 0, 1] };
  return {
    all,
    chosen,
    /** Those of them that the file has not drawn: they stand beside what they speak of. */
    shown: all.filter((d) => shown.has(d.index) && !d.drawn),
    isShown: (index: number) => shown.has(index),
    show: (indexes: readonly number[], isOn: boolean) =>
      setShown((was) => new Set(isOn ? [...was, ...indexes] : [...was].filter((i) => !indexes.includes(i)))),
    /** Picks what one speaks of; what is drawn is shown, and looked at squarely. */
    goTo: (d: Stated) => {
      parts.hide([d.component], false);
      const hit = hitOf(d);
      if (hit) picking.press(hit, false);
      else picking.components([d.component]);
      const [plane, eye] = [d.drawn && planeOfDrawn(d.drawn), eyes.now()];
      if (!plane || !eye) return;
      setShown((was) => new Set([...was, d.index]));
      const at = inModel(tree.placed[d.component]!, plane.at, false);
      const normal = unit(inModel(tree.placed[d.component]!, plane.normal, true));
      const square = squarely(eye, dot(normal, axesOf(eye).back) < 0 ? times(-1, normal) : normal, at);
      // It is seen with the part that it speaks of.
      const box = [...boxOf(tree, facts, [d.component])];
      for (const p of pointsOf(d.drawn!))
        inModel(tree.placed[d.component]!, p, false).forEach((n, k) => {
          box[k] = Math.min(box[k]!, n);
          box[k + 3] = Math.max(box[k + 3]!, n);
        });
      const { width, height } = size();
      move(fitted(square, box, width, height), false);
    },
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
