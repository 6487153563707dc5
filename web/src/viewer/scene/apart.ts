import type { SceneFacts } from "../../api/types";
import { boxOf } from "./componentFacts";
import { add, minus, times, type V3 } from "../camera/eye";
import type { SceneTree } from "./tree";

const nowhere: V3 = [0, 0, 0];

/**
 * Where each component goes when the model is taken apart: away from the middle of the assembly it lies in, along that of the assembly's axes
 * along which it is out of it soonest, and with the assembly as a whole. At 1 by as much again as it lies away, so that what lies farther out
 * goes farther.
 */
export function partedWays(tree: SceneTree, facts: SceneFacts): V3[] {
  const boxes = new Map<number, readonly number[]>();
  const around = (component: number) => {
    let known = boxes.get(component);
    if (!known)
      boxes.set(
        component,
        (known = boxOf(tree, facts, component < 0 ? [...tree.components.keys()] : tree.within(component))),
      );
    return known;
  };
  const middleOf = (box: readonly number[]): V3 => [
    (box[0]! + box[3]!) / 2,
    (box[1]! + box[4]!) / 2,
    (box[2]! + box[5]!) / 2,
  ];
  /** Half of what a box reaches along a direction. */
  const reachOf = (box: readonly number[], [x, y, z]: V3) =>
    (Math.abs(x) * (box[3]! - box[0]!) + Math.abs(y) * (box[4]! - box[1]!) + Math.abs(z) * (box[5]! - box[2]!)) / 2;
  const ways: V3[] = [];
  tree.components.forEach(({ parent }, i) => {
    // One that lies in nothing else than what holds everything has nothing to go away from.
    const siblings = tree.childrenOf(parent);
    if (siblings.length < 2) {
      ways.push(parent < 0 ? nowhere : ways[parent]!);
      return;
    }
    const [own, whole] = [around(i), around(parent)];
    const from = minus(middleOf(own), middleOf(whole));
    const m = parent < 0 ? null : tree.placed[parent]!;
    const axes: V3[] = [0, 1, 2].map((k) => {
      const axis: V3 = m ? [m[k]!, m[4 + k]!, m[8 + k]!] : ([0, 1, 2].map((r) => (r === k ? 1 : 0)) as unknown as V3);
      return times(1 / (Math.hypot(...axis) || 1), axis);
    });
    const shares = axes.map((a) => a[0] * from[0] + a[1] * from[1] + a[2] * from[2]);
    const exits = axes.map((a, k) => reachOf(whole, a) + reachOf(own, a) - Math.abs(shares[k]!));
    const soonest = exits.reduce((best, e, k) => (e < exits[best]! * 0.999 ? k : best), 0);
    ways.push(add(parent < 0 ? nowhere : ways[parent]!, times(shares[soonest]!, axes[soonest]!)));
  });
  return ways;
}
