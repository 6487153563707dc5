import { useSyncExternalStore, type ReactNode } from "react";
import { AxesSign } from "./AxesSign";
import { inModel } from "./exact";
import { add, placeOf, type Eye, type V3 } from "./eye";
import type { EyeNow } from "./eyeNow";
import { standsOn } from "./pins";
import type { PinPlace } from "./sceneProps";
import type { SceneTree } from "./tree";

type Props = {
  eyes: EyeNow;
  tree: SceneTree;
  hidden: ReadonlySet<number>;
  frame: React.RefObject<HTMLElement | null>;
  /** Where components have gone, when the model is taken apart. */
  ways: readonly V3[] | null;
  overlay: ((place: PinPlace) => ReactNode) | undefined;
  /** What else goes with the eye. */
  children?: (eye: Eye) => ReactNode;
};

/** What lies over a model and goes with the eye. */
export function OverScene({ eyes, tree, hidden, frame, ways, overlay, children }: Props) {
  const eye = useSyncExternalStore(eyes.subscribe, eyes.now);
  if (!eye) return null;
  const place: PinPlace = (pin) => {
    const component = standsOn(tree, pin);
    if (component === null || hidden.has(component) || !frame.current) return null;
    const { clientWidth, clientHeight } = frame.current;
    const at = inModel(tree.placed[component]!, pin.at, false);
    return placeOf(eye, ways ? add(at, ways[component]!) : at, clientWidth, clientHeight);
  };
  return (
    <>
      <AxesSign eye={eye} />
      {children?.(eye)}
      {overlay?.(place)}
    </>
  );
}
