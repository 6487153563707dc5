import type { KeptView, Pin } from "../../api/types";
import type { Eye, V3 } from "../camera/eye";
import type { SectionPlane } from "./sections";
import type { Shown } from "./useShown";

const pointOf = ([x, y, z]: V3) => ({ x, y, z });
const v3Of = ({ x, y, z }: { x: number; y: number; z: number }): V3 => [x, y, z];
const ordered = (numbers: Iterable<number>) => [...numbers].sort((a, b) => a - b);

const planeOf = ({ along, at, thickness }: SectionPlane) => ({ along: pointOf(along), at, thickness });

/** What an eye sees, as a pin or a kept view tells it. */
export const toldEye = (eye: Eye, hidden: ReadonlySet<number>, sections: readonly SectionPlane[]): Pin["eye"] => {
  const on = sections.filter((s) => s.isOn);
  return {
    target: pointOf(eye.target),
    turn: eye.turn,
    tilt: eye.tilt,
    height: eye.height,
    isPerspective: eye.isPerspective,
    hidden: ordered(hidden),
    ...(on.length > 0 ? { sections: on.map(planeOf) } : {}),
  };
};

/** The eye that is told of. */
export const eyeOf = ({ target, turn, tilt, height, isPerspective }: Pin["eye"]): Eye => ({
  ...{ target: v3Of(target), turn, tilt, height, isPerspective },
});

/** The planes that are told of with an eye. */
export const planesOf = (eye: Pin["eye"]) =>
  (eye.sections ?? []).map((s) => ({ along: v3Of(s.along), at: s.at, thickness: s.thickness ?? null }));

/** How a model is seen, to be kept. */
export const keptOf = (eye: Eye, shown: Shown, sections: readonly SectionPlane[], isVeiled: boolean): KeptView => ({
  eye: toldEye(eye, shown.hidden, sections),
  ghost: ordered(shown.ghost),
  painted: [...shown.colours].map(([component, colour]) => ({ component, colour })),
  apart: shown.apart,
  sections: sections.map((s) => ({ name: s.name, plane: planeOf(s), isOn: s.isOn })),
  isVeiled,
});

/** How components are shown in a view that was kept. */
export const shownOf = (view: KeptView): Shown => ({
  hidden: new Set(view.eye.hidden),
  ghost: new Set(view.ghost),
  colours: new Map(view.painted.map((p) => [p.component, p.colour])),
  apart: view.apart,
});

/** The sections of a view that was kept. */
export const sectionsOf = (view: KeptView): SectionPlane[] =>
  view.sections.map(({ name, plane, isOn }) => ({
    ...{ id: crypto.randomUUID(), name, isOn },
    ...{ along: v3Of(plane.along), at: plane.at, thickness: plane.thickness ?? null },
  }));
