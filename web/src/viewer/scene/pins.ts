import type { ModelSpot, Pin, PinEye, SceneFacts } from "../../api/types";
import type { Hit } from "./hit";
import type { V3 } from "../camera/eye";
import type { Placement, SceneTree } from "./tree";

/** A point or a direction of the model, in the axes of a component that stands there. */
export function inPart(m: Placement, p: V3, isDirection: boolean): V3 {
  const from = isDirection ? p : ([p[0] - m[3]!, p[1] - m[7]!, p[2] - m[11]!] as const);
  // By the inverse, for components may be mirrored or drawn to scale.
  const [a, b, c, d, e, f, g, h, i] = [m[0]!, m[1]!, m[2]!, m[4]!, m[5]!, m[6]!, m[8]!, m[9]!, m[10]!];
  const [x, y, z] = [e * i - f * h, f * g - d * i, d * h - e * g];
  const whole = a * x + b * y + c * z || 1;
  return [
    (x * from[0] + (c * h - b * i) * from[1] + (b * f - c * e) * from[2]) / whole,
    (y * from[0] + (a * i - c * g) * from[1] + (c * d - a * f) * from[2]) / whole,
    (z * from[0] + (b * g - a * h) * from[1] + (a * e - b * d) * from[2]) / whole,
  ];
}

const pointOf = ([x, y, z]: V3) => ({ x, y, z });

/** What was hit, as a thing of its component. */
export function spotOf(tree: SceneTree, hit: Hit): ModelSpot {
  const at = tree.placed[hit.component]!;
  const normal = inPart(at, hit.normal, true);
  const long = Math.hypot(...normal) || 1;
  return {
    component: hit.component,
    path: pathOf(tree, hit.component),
    face: hit.edge === null ? hit.face : null,
    edge: hit.edge,
    isCorner: hit.isCorner ?? false,
    isPoint: false,
    at: pointOf(inPart(at, hit.point, false)),
    normal: pointOf([normal[0] / long, normal[1] / long, normal[2] / long]),
  };
}

const pathOf = (tree: SceneTree, component: number) => tree.pathOf(component).map((c) => tree.wordsOf(c));

/** The numbers of components: their own, or that of the nearest they lie in; the name of one that has neither. */
export const numbersOf = (tree: SceneTree, components: readonly number[]): string[] => [
  ...new Set(
    components.flatMap(
      (c) =>
        [...tree.pathOf(c)]
          .reverse()
          .map((at) => tree.components[at]!.number)
          .find((number) => number !== "") ??
        (tree.components[c]!.name || []),
    ),
  ),
];

/** A whole component, by its middle. */
export function wholeOf(tree: SceneTree, facts: SceneFacts, component: number): ModelSpot {
  const part = tree.components[component]!.part;
  const box = (part === null ? null : facts.parts[part]!.box) ?? [0, 0, 0, 0, 0, 0];
  const middle: V3 = [(box[0]! + box[3]!) / 2, (box[1]! + box[4]!) / 2, (box[2]! + box[5]!) / 2];
  const path = pathOf(tree, component);
  return {
    ...{ component, path, face: null, edge: null, isCorner: false, isPoint: false },
    at: pointOf(middle),
    normal: { x: 0, y: 0, z: 1 },
  };
}

/** A pin on what was hit, with the eye that sees it. */
export function pinOf(tree: SceneTree, hit: Hit, eye: PinEye): Pin {
  const { component, path, at, normal } = spotOf(tree, hit);
  return { shape: "pin", ...{ component, path, face: hit.face, at, normal, eye } };
}

/** The component that something stands on: the one of its number if that is still called so, or one that is called like it. */
export const standsOn = (tree: SceneTree, { component, path }: Pick<ModelSpot, "component" | "path">): number | null =>
  tree.isCalled(component, path) ? component : tree.called(path);
