import { useSyncExternalStore, type ReactNode } from "react";
import { AxesSign } from "./AxesSign";
import { inModel } from "./exact";
import { placeOf } from "./eye";
import type { EyeNow } from "./eyeNow";
import { standsOn } from "./pins";
import type { PinPlace } from "./sceneProps";
import type { SceneTree } from "./tree";

type Props = {
  eyes: EyeNow;
  tree: SceneTree;
  hidden: ReadonlySet<number>;
  frame: React.RefObject<HTMLElement | null>;
  overlay: ((place: PinPlace) => ReactNode) | undefined;
};

/** What lies over a model and goes with the eye. */
export function OverScene({ eyes, tree, hidden, frame, overlay }: Props) {
  const eye = useSyncExternalStore(eyes.subscribe, eyes.now);
  if (!eye) return null;
  const place: PinPlace = (pin) => {
    const component = standsOn(tree, pin);
    if (component === null || hidden.has(component) || !frame.current) return null;
    const { clientWidth, clientHeight } = frame.current;
    return placeOf(eye, inModel(tree.placed[component]!, pin.at, false), clientWidth, clientHeight);
  };
  return (
    <>
      <AxesSign eye={eye} />
      {overlay?.(place)}
    </>
  );
}
