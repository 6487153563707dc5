import { useSyncExternalStore, type ReactNode } from "react";
import type { FoundAgain } from "../../api/types";
import { AxesSign } from "./AxesSign";
import { inModel } from "./exact";
import { add, placeOf, type Eye, type V3 } from "./eye";
import type { EyeNow } from "./eyeNow";
import type { MeasureSaid } from "./measured";
import { planeOf } from "./onView";
import { standsOn } from "./pins";
import type { SceneOver } from "./sceneProps";
import type { SceneTree } from "./tree";

type Props = {
  eyes: EyeNow;
  tree: SceneTree;
  hidden: ReadonlySet<number>;
  frame: React.RefObject<HTMLElement | null>;
  /** Where components have gone, when the model is taken apart. */
  ways: readonly V3[] | null;
  found: ReadonlyMap<string, FoundAgain>;
  measured: ReadonlyMap<string, MeasureSaid>;
  overlay: ((over: SceneOver) => ReactNode) | undefined;
  /** What else goes with the eye. */
  children?: (eye: Eye) => ReactNode;
};

/** What lies over a model and goes with the eye. */
export function OverScene({ eyes, tree, hidden, frame, ways, found, measured, overlay, children }: Props) {
  const eye = useSyncExternalStore(eyes.subscribe, eyes.now);
  if (!eye || !frame.current) return null;
  const { clientWidth, clientHeight } = frame.current;
  const seen = (p: V3) => placeOf(eye, p, clientWidth, clientHeight);
  const over: SceneOver = {
    eye,
    plane: planeOf(eye, clientWidth, clientHeight),
    place: (spot, id) => {
      const again = id === undefined ? undefined : found.get(id);
      const component = again ? again.component : standsOn(tree, spot);
      if (component === null || hidden.has(component)) return null;
      const at = inModel(tree.placed[component]!, again?.at ?? spot.at, false);
      return seen(ways ? add(at, ways[component]!) : at);
    },
    howFound: (id) => found.get(id)?.how ?? null,
    measured: (id) => {
      const said = measured.get(id);
      // Taken apart, the two ends are no longer as far from one another as is told.
      return said ? { ...said, ends: ways ? null : (said.ends?.map(seen) ?? null) } : null;
    },
  };
  return (
    <>
      <AxesSign eye={eye} />
      {children?.(eye)}
      {overlay?.(over)}
    </>
  );
}
