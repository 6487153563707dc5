import type { Pin } from "../../api/types";
import type { Hit } from "./drawing";
import type { V3 } from "./eye";
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

/** A pin on what was hit, with the eye that sees it. */
export function pinOf(tree: SceneTree, hit: Hit, eye: Pin["eye"]): Pin {
  const at = tree.placed[hit.component]!;
  const normal = inPart(at, hit.normal, true);
  const long = Math.hypot(...normal) || 1;
  return {
    shape: "pin",
    component: hit.component,
    path: tree.pathOf(hit.component).map((c) => tree.wordsOf(c)),
    face: hit.face,
    at: pointOf(inPart(at, hit.point, false)),
    normal: pointOf([normal[0] / long, normal[1] / long, normal[2] / long]),
    eye,
  };
}

/** The component that a pin stands on: the one of its number if that is still called so, or one that is called like it. */
export const standsOn = (tree: SceneTree, pin: Pin): number | null =>
  tree.isCalled(pin.component, pin.path) ? pin.component : tree.called(pin.path);
