import { useEffect, useMemo, useRef, useState, useSyncExternalStore, type ReactNode } from "react";
import type { FoundAgain } from "../../api/types";
import { AxesSign } from "./AxesSign";
import { inModel } from "./exact";
import { add, placeOf, type Eye, type V3 } from "../camera/eye";
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
  /** Whether a point of the model is not seen, as the model is drawn. */
  isUnseen: (p: V3) => boolean;
  /** What is drawn: another whenever that may hide something else. */
  drawn: readonly unknown[];
  frame: React.RefObject<HTMLElement | null>;
  /** Where components have gone, when the model is taken apart. */
  ways: readonly V3[] | null;
  found: ReadonlyMap<string, FoundAgain>;
  measured: ReadonlyMap<string, MeasureSaid>;
  overlay: ((over: SceneOver) => ReactNode) | undefined;
  /** What else goes with the eye. */
  children?: (eye: Eye) => ReactNode;
};

/** What hides what is found out once nothing has moved for so long, milliseconds. */
const REST = 160;

/** What lies over a model and goes with the eye. */
export function OverScene(props: Props) {
  const { eyes, tree, hidden, frame, ways, found, measured, overlay, children, isUnseen, drawn } = props;
  const eye = useSyncExternalStore(eyes.subscribe, eyes.now);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- another one for each that is drawn
  const now = useMemo(() => ({}), [eye, found, ways, hidden, ...drawn]);
  const [resting, setResting] = useState<object | null>(null);
  useEffect(() => {
    const timer = window.setTimeout(() => setResting(now), REST);
    return () => clearTimeout(timer);
  }, [now]);
  /** Whether spots are hidden, as it was when it was last found out; anew once all rests. */
  const known = useRef({ at: null as object | null, spots: new Map<string, boolean>() });
  const isHidden = (id: string, at: V3) => {
    if (resting === now && known.current.at !== now) known.current = { at: now, spots: new Map() };
    const { spots } = known.current;
    if (resting === now && !spots.has(id)) spots.set(id, isUnseen(at));
    return spots.get(id) ?? false;
  };
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
      const stands = ways ? add(at, ways[component]!) : at;
      return { ...seen(stands), isHidden: id !== undefined && isHidden(id, stands) };
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
