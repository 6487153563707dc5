import { useState } from "react";
import type { ModelMeasure, SceneFacts } from "../../api/types";
import type { SceneDrawing } from "./drawing";
import { lengthOf, minus, squarely, times, add, type Eye, type V3 } from "../camera/eye";
import type { MeasureSaid } from "./measured";
import { spotOf } from "./pins";
import type { SectionPlane } from "./sections";
import type { SceneTree } from "./tree";
import { toldEye } from "./viewNow";

type Given = {
  drawing: React.RefObject<SceneDrawing | null>;
  tree: SceneTree;
  facts: SceneFacts;
  hidden: ReadonlySet<number>;
  eyeNow: () => Eye | null;
  measured: ReadonlyMap<string, MeasureSaid>;
  onSet: ((shape: ModelMeasure) => void) | null;
};

/** The section that lies flat, if any, and what is kept of what is measured on it: points of what is cut, that stay on their parts. */
export function useFlat({ drawing, tree, facts, hidden, eyeNow, measured, onSet }: Given) {
  const [flat, setFlat] = useState<SectionPlane | null>(null);
  const keep = (from: V3, to: V3) => {
    const hits = [from, to].map((p) => drawing.current?.picker.nearest(p) ?? null);
    const eye = eyeNow();
    if (!flat || !onSet || !eye || hits.some((h) => h === null)) return;
    const of = hits.map((hit) => ({ ...spotOf(tree, { ...hit!, edge: null }), isPoint: true }));
    const seen = squarely(eye, flat.along, times(0.5, add(from, to)));
    onSet({ shape: "modelMeasure", of, eye: toldEye(seen, hidden, [{ ...flat, isOn: true }]) });
  };
  const [x0 = 0, y0 = 0, z0 = 0, x1 = 1, y1 = 1, z1 = 1] = facts.box ?? [];
  return {
    flat,
    setFlat,
    keep: onSet ? keep : null,
    /** What is kept and may lie on it. */
    kept: [...measured.values()].flatMap(({ ends, words }) => (ends ? [{ ends, words }] : [])),
    diagonal: lengthOf(minus([x1, y1, z1], [x0, y0, z0])) || 1,
  };
}
