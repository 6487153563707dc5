import type { SceneFacts, SceneLeaf } from "../../api/types";

export type Unit = SceneFacts["unit"];

/** How each unit is written, and how many millimetres it has; a file that states none has none. */
const units: Readonly<Record<Unit, { sign: string; millimetres: number | null }>> = {
  unknown: { sign: "", millimetres: null },
  millimetre: { sign: "mm", millimetres: 1 },
  centimetre: { sign: "cm", millimetres: 10 },
  metre: { sign: "m", millimetres: 1000 },
  kilometre: { sign: "km", millimetres: 1e6 },
  inch: { sign: "in", millimetres: 25.4 },
  foot: { sign: "ft", millimetres: 304.8 },
  yard: { sign: "yd", millimetres: 914.4 },
  mile: { sign: "mi", millimetres: 1_609_344 },
  micrometre: { sign: "µm", millimetres: 1e-3 },
};

/** Those that a model may be counted in whose file does not say. */
export const offered = ["millimetre", "centimetre", "metre", "inch", "foot"] as const satisfies readonly Unit[];
export const signOf = (unit: Unit) => units[unit].sign;

/** What a model is counted in: what its file says, otherwise what somebody said. */
export function unitOf(facts: SceneFacts, leaf: SceneLeaf): { sign: string; millimetres: number | null } {
  return units[facts.unit !== "unknown" ? facts.unit : (leaf.scales[0]?.given?.unit ?? "unknown")];
}
