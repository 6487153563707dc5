import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useImperativeHandle, useLayoutEffect, useMemo, useRef, useState } from "react";
import { api } from "../../api/client";
import type { SceneFacts } from "../../api/types";
import { SceneDrawing, type Hit } from "./drawing";
import { boxOf, factsOf } from "./componentFacts";
import { fitted, nearer, squarely, standing, type Eye, type Standing } from "./eye";
import { pinOf, standsOn } from "./pins";
import { EyeNow } from "./eyeNow";
import { OverScene } from "./OverScene";
import { PickedFacts } from "./PickedFacts";
import type { SceneProps } from "./sceneProps";
import { SceneTreeList } from "./SceneTreeList";
import { SceneTree } from "./tree";
import { useBetween } from "./useBetween";
import { useSceneCommands } from "./useSceneCommands";
import { eyeAfterKey, useSceneHand } from "./useSceneHand";

const unitSigns: Readonly<Record<string, string>> = { millimetre: "mm" };
const nobody: ReadonlySet<number> = new Set();
/** Below this there is no room for the tree beside the model, CSS pixels. */
const NARROW = 900;
/** Where each model was left, as long as the page is open. */
const left = new Map<string, { eye: Eye; hidden: ReadonlySet<number> }>();

/** A model that is here. */
export function LoadedScene(props: SceneProps & { facts: SceneFacts; bytes: ArrayBuffer }) {
  const { draft, leaf, facts, bytes, handle, isSecond, onShown, overlay, onPin, lookAt = null } = props;
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const drawing = useRef<SceneDrawing | null>(null);
  const tree = useMemo(() => new SceneTree(facts.components), [facts]);
  const box = facts.box ?? [0, 0, 0, 1, 1, 1];
  const unit = unitSigns[facts.unit] ?? "";
  const kept = `${draft}/${leaf.position}`;
  const [fault, setFault] = useState<string | null>(null);
  const [eyes] = useState(() => new EyeNow(left.get(kept)?.eye ?? null));
  /** Whether there is an eye: from then on it may be sent somewhere. */
  const [isReady, setReady] = useState(false);
  const [hidden, setHidden] = useState<ReadonlySet<number>>(() => left.get(kept)?.hidden ?? nobody);
  const [ghost, setGhost] = useState<ReadonlySet<number>>(nobody);
  const [picked, setPicked] = useState<readonly number[]>([]);
  const [taken, setTaken] = useState<Hit | null>(null);
  /** What is measured to from there. */
  const [second, setSecond] = useState<Hit | null>(null);
  const [density, setDensity] = useState<Readonly<Record<number, string>>>({});
  const [isTreeOpen, setTreeOpen] = useState(() => !isSecond && window.innerWidth >= NARROW);
  const sizeOf = () => ({ width: frame.current?.clientWidth ?? 1, height: frame.current?.clientHeight ?? 1 });
  const { data: exact } = useQuery({
    queryKey: ["exact", draft, leaf.position],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${leaf.position}/exact`),
    staleTime: Infinity,
    enabled: taken !== null,
    meta: { saysItself: true },
  });

  const move = useCallback(
    (next: Eye, isMoving: boolean) => {
      drawing.current?.setEye(next, isMoving);
      eyes.set(next);
    },
    [eyes],
  );
  const fit = useCallback(
    (from: Pick<Eye, "turn" | "tilt" | "isPerspective">, components: readonly number[] | null = null) => {
      const { width, height } = { width: frame.current!.clientWidth, height: frame.current!.clientHeight };
      const around = components ? boxOf(tree, facts, components) : box;
      move(fitted({ target: [0, 0, 0], height: 1, ...pickEye(from) }, around, width, height), false);
    },
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the box is that of the facts
    [move, tree, facts],
  );

  const shown = useRef(onShown);
  useEffect(() => {
    shown.current = onShown;
  });
  useLayoutEffect(() => {
    try {
      drawing.current = new SceneDrawing(canvas.current!, facts, tree, bytes, () => shown.current?.());
    } catch {
      setFault(
        "This browser cannot draw models: it has no WebGL. Its picture is shown instead; open Froe in another browser, or switch graphics on in its settings.",
      );
      return;
    }
    const watch = new ResizeObserver(() => {
      const { width, height } = { width: frame.current!.clientWidth, height: frame.current!.clientHeight };
      if (width === 0 || height === 0) return;
      drawing.current?.resize(width, height);
      const eye = eyes.now();
      if (eye) move(eye, false);
      else fit({ ...standing.frontRight, isPerspective: false });
      setReady(true);
    });
    watch.observe(frame.current!);
    return () => {
      watch.disconnect();
      drawing.current?.dispose();
      drawing.current = null;
    };
  }, [facts, tree, bytes, fit, eyes, move]);
  useEffect(() => drawing.current?.setLook({ hidden, ghost }), [hidden, ghost]);
  useEffect(() => drawing.current?.setPicked(picked.flatMap((c) => tree.within(c))), [picked, tree]);
  useEffect(() => drawing.current?.setTaken([taken, second].filter((t) => t !== null)), [taken, second]);
  const between = useBetween(draft, leaf.position, taken, second, unit);
  useEffect(() => {
    const keep = () => {
      const eye = eyes.now();
      if (eye) left.set(kept, { eye, hidden });
    };
    keep();
    return eyes.subscribe(keep);
  }, [kept, eyes, hidden]);

  const take = (first: Hit | null, other: Hit | null = null) => {
    setTaken(first);
    setSecond(other);
  };
  const pick = (component: number, isMore: boolean) => {
    take(null);
    setPicked((was) =>
      isMore ? (was.includes(component) ? was.filter((c) => c !== component) : [...was, component]) : [component],
    );
  };
  useSceneHand({
    frame,
    eyeNow: () => eyes.now()!,
    move,
    under: (x, y) => drawing.current?.pick(x, y)?.point ?? null,
    press: (x, y, isMore) => {
      const hit = drawing.current?.pick(x, y) ?? null;
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
    },
  });

  const all = useMemo(() => tree.components.flatMap((c, i) => (c.part === null ? [] : [i])), [tree]);
  const within = picked.flatMap((c) => tree.within(c)).filter((c) => tree.components[c]!.part !== null);
  const hide = (components: readonly number[], isHidden: boolean) => {
    const those = new Set(components);
    setHidden((was) => new Set(isHidden ? [...was, ...those] : [...was].filter((c) => !those.has(c))));
  };
  const showAll = () => {
    setHidden(nobody);
    setGhost(nobody);
  };
  const isolate = (rest: "hidden" | "ghost") => {
    const those = new Set(within);
    const others = new Set(all.filter((c) => !those.has(c)));
    setHidden(rest === "hidden" ? others : nobody);
    setGhost(rest === "ghost" ? others : nobody);
  };
  const look = (to: Standing) =>
    fit({ ...standing[to], isPerspective: eyes.now()?.isPerspective ?? false }, picked.length > 0 ? within : null);
  const lookSquarely = taken ? () => move(squarely(eyes.now()!, taken.normal, taken.point), false) : null;
  const togglePerspective = () => move({ ...eyes.now()!, isPerspective: !eyes.now()!.isPerspective }, false);
  useSceneCommands(isSecond ? "beside" : "bench", {
    look,
    togglePerspective,
    lookSquarely,
    hide: within.length > 0 ? () => hide(within, true) : null,
    isolate: within.length > 0 ? () => isolate("hidden") : null,
    ghost: within.length > 0 ? () => isolate("ghost") : null,
    showAll: hidden.size + ghost.size > 0 ? showAll : null,
  });
  useImperativeHandle(handle, () => ({
    fit: () => fit(eyes.now() ?? { ...standing.frontRight, isPerspective: false }),
    zoom: (factor) => {
      const { width, height } = sizeOf();
      move(nearer(eyes.now()!, factor, width / 2, height / 2, width, height), false);
    },
  }));

  const lookedAt = useRef<typeof lookAt>(null);
  useEffect(() => {
    if (!lookAt?.pin || lookedAt.current === lookAt || !isReady) return;
    lookedAt.current = lookAt;
    const { target, ...rest } = lookAt.pin.eye;
    move(
      {
        target: [target.x, target.y, target.z],
        turn: rest.turn,
        tilt: rest.tilt,
        height: rest.height,
        isPerspective: rest.isPerspective,
      },
      false,
    );
    const component = standsOn(tree, lookAt.pin);
    // What was left out is left out again, where the numbers are still those of this draft.
    setHidden(component === lookAt.pin.component ? new Set(rest.hidden) : nobody);
    setGhost(nobody);
    setPicked(component === null ? [] : [component]);
    setTaken(null);
    setSecond(null);
  }, [lookAt, isReady, move, tree]);
  const pinHere = onPin && taken ? () => onPin(pinOf(tree, taken, eyes.now()!, hidden)) : null;
  const one = picked.length === 1 ? picked[0]! : null;
  const said = picked.length > 0 && (
    <PickedFacts
      isFloating={!isTreeOpen}
      {...(between
        ? { title: "Between the two", ...between, density: null }
        : one !== null
          ? factsOf(one, {
              ...{ tree, facts, exact, taken, unit, density },
              setDensity: (part, value) => setDensity((was) => ({ ...was, [part]: value })),
            })
          : { title: `${picked.length} components`, of: null, lines: [], sureness: "", density: null })}
      acts={[
        ...(pinHere ? [{ words: "Note here (Enter)", run: pinHere }] : []),
        ...(lookSquarely ? [{ words: "Look squarely (Q)", run: lookSquarely }] : []),
        { words: "Fit", run: () => fit(eyes.now()!, within) },
        { words: "Hide (H)", run: () => hide(within, true) },
        { words: "Only this (I)", run: () => isolate("hidden") },
        { words: "Rest as ghost (G)", run: () => isolate("ghost") },
      ]}
      onClose={() => {
        setPicked([]);
        take(null);
      }}
    />
  );
  return (
    <div className="absolute inset-0 flex" data-keys={isSecond ? "beside" : undefined}>
      {isTreeOpen && (
        <aside
          aria-label="Components of the model"
          className="flex w-56 shrink-0 flex-col border-r border-rule bg-ground px-2 py-2"
        >
          <div className="flex items-center">
            <p className="label flex-1">
              {facts.parts.length === 1 ? "1 part" : `${facts.parts.length} parts`} ·{" "}
              {all.length === 1 ? "1 piece" : `${all.length} pieces`}
            </p>
            <button type="button" className="min-h-6 text-sm underline" onClick={() => setTreeOpen(false)}>
              Close
            </button>
          </div>
          <SceneTreeList tree={tree} hidden={hidden} picked={picked} onPick={pick} onHide={hide} />
          {hidden.size + ghost.size > 0 && (
            <button type="button" className="mt-1 min-h-7 border border-edge text-sm" onClick={showAll}>
              Show everything
            </button>
          )}
          {said}
        </aside>
      )}
      <div
        ref={frame}
        id={isSecond ? undefined : "sheet"}
        role="application"
        tabIndex={0}
        data-testid="model"
        aria-label={`Model of ${all.length} pieces. Arrow keys turn it, with Shift they move it; plus and minus near it.`}
        className="relative min-w-0 flex-1 touch-none overflow-hidden bg-table outline-none focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-spruce"
        onKeyDown={(e) => {
          if (e.target !== e.currentTarget || e.altKey || e.ctrlKey || e.metaKey || !eyes.now()) return;
          const { width, height } = sizeOf();
          const next = eyeAfterKey(eyes.now()!, e, width, height);
          if (next) {
            e.preventDefault();
            move(next, false);
          } else if (e.key === "Enter" && pinHere) {
            e.preventDefault();
            pinHere();
          } else if (e.key === "Escape" && picked.length > 0) {
            setPicked([]);
            take(null);
          }
        }}
      >
        {fault ? (
          <div className="absolute inset-0 grid place-items-center">
            <img
              alt="The model"
              onLoad={onShown}
              src={`/api/drafts/${draft}/leaves/${leaf.position}/picture`}
              className="max-h-full object-contain"
            />
            <p role="alert" className="absolute bottom-3 max-w-md border border-rust bg-raised px-3 py-1.5">
              {fault}
            </p>
          </div>
        ) : (
          <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden="true" />
        )}
        {!isTreeOpen && (
          <button
            type="button"
            data-on-sheet
            className="absolute top-3 left-14 z-20 min-h-7 border border-edge bg-raised px-2 text-sm"
            onClick={() => setTreeOpen(true)}
          >
            Parts
          </button>
        )}
        {!fault && <OverScene {...{ eyes, tree, hidden, frame, overlay }} />}
        {!isTreeOpen && said}
      </div>
    </div>
  );
}

const pickEye = ({ turn, tilt, isPerspective }: Pick<Eye, "turn" | "tilt" | "isPerspective">) => ({
  turn,
  tilt,
  isPerspective,
});
