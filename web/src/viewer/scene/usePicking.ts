import { useMemo, useState } from "react";
import type { SceneFacts } from "../../api/types";
import type { Hit } from "./hit";
import { spotOf, wholeOf } from "./pins";
import type { SceneTree } from "./tree";

/** What is picked of a model: components, and of the last a face or an edge; with Shift another, that it is measured to. */
export function usePicking(tree: SceneTree, facts: SceneFacts) {
  const [picked, setPicked] = useState<readonly number[]>([]);
  const [taken, setTaken] = useState<Hit | null>(null);
  /** What is measured to from there. */
  const [second, setSecond] = useState<Hit | null>(null);
  const take = (first: Hit | null, other: Hit | null = null) => {
    setTaken(first);
    setSecond(other);
  };
  const components = (all: readonly number[]) => {
    take(null);
    setPicked(all);
  };
  const pick = (component: number, isMore: boolean) => {
    const more = picked.includes(component) ? picked.filter((c) => c !== component) : [...picked, component];
    components(isMore ? more : [component]);
  };
  const press = (hit: Hit | null, isMore: boolean) => {
    if (!hit) {
      if (!isMore) setPicked([]);
      take(null);
    } else if (isMore && taken) {
      // A second one with Shift: how it lies to the first.
      setPicked([...new Set([taken.component, hit.component])]);
      setSecond(hit);
    } else {
      pick(hit.component, isMore);
      if (!isMore) take(hit);
    }
  };
  const isTwo = picked.length === 2 && !second && picked.every((c) => tree.components[c]!.part !== null);
  /** The two that are measured between; null for fewer. */
  const two = useMemo(
    () =>
      taken && second
        ? [spotOf(tree, taken), spotOf(tree, second)]
        : isTwo
          ? picked.map((c) => wholeOf(tree, facts, c))
          : null,
    [taken, second, isTwo, picked, tree, facts],
  );
  return {
    ...{ picked, taken, second, isTwo, two },
    /** All that is measured: the two, or the one face or edge. */
    measured: two ?? (taken ? [spotOf(tree, taken)] : null),
    within: picked.flatMap((c) => tree.within(c)).filter((c) => tree.components[c]!.part !== null),
    ...{ components, pick, press },
  };
}
