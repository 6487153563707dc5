import { useEffect, useRef } from "react";
import type { SceneFacts } from "../../api/types";
import type { Eye } from "../camera/eye";
import type { EyeNow } from "./eyeNow";
import { standsOn } from "./pins";
import type { SceneProps } from "./sceneProps";
import type { SceneTree } from "./tree";
import type { usePicking } from "./usePicking";
import type { useSections } from "./useSections";
import { asUsual, type useShown } from "./useShown";
import { eyeOf, planesOf } from "./viewNow";

type Scene = {
  draft: string;
  tree: SceneTree;
  facts: SceneFacts;
  move: (eye: Eye, isMoving: boolean) => void;
  fit: (from: Eye, components: readonly number[]) => void;
  eyes: EyeNow;
  parts: ReturnType<typeof useShown>;
  sections: ReturnType<typeof useSections>;
  picking: ReturnType<typeof usePicking>;
};

/** Goes where one is sent on a model, once for each time it is given: to what an eye saw, or to components by their number, name or material. */
export function useGoing(lookAt: SceneProps["lookAt"], isReady: boolean, scene: Scene) {
  const { draft, tree, facts, move, fit, eyes, parts, sections, picking } = scene;
  const lookedAt = useRef<typeof lookAt>(null);
  useEffect(() => {
    const to = lookAt?.scene;
    if (!to || lookedAt.current === lookAt || !isReady) return;
    lookedAt.current = lookAt;
    if (!to.eye) {
      const called = to.words ? tree.meant(to.words) : [];
      const isOf = (part: number | null) => part !== null && facts.parts[part]!.material === to.words;
      const meant = called.length > 0 ? called : tree.components.flatMap((c, i) => (isOf(c.part) ? [i] : []));
      const pieces = meant.flatMap((c) => tree.within(c));
      parts.hide(pieces, false);
      picking.components(meant);
      if (meant.length > 0) fit(eyes.now()!, pieces);
      return;
    }
    move(eyeOf(to.eye), false);
    const component = to.spot && standsOn(tree, to.spot);
    // What was left out is left out again, where the numbers are still those of this draft.
    const isAsItWas = to.draft === draft || (component !== null && component === to.spot?.component);
    parts.set({ ...asUsual, hidden: isAsItWas ? new Set(to.eye.hidden) : asUsual.hidden });
    sections.set(planesOf(to.eye));
    picking.components(component === null ? [] : [component]);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- gone to once for each time it is given
  }, [lookAt, isReady, move, tree]);
}
