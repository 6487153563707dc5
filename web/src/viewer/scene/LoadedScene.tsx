import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useImperativeHandle, useLayoutEffect, useMemo, useRef, useState } from "react";
import { api } from "../../api/client";
import type { SceneFacts } from "../../api/types";
import { useCommands } from "../../commands/registry";
import { AxesSign } from "./AxesSign";
import { SceneDrawing, type Hit } from "./drawing";
import {
  areaWords,
  edgeLines,
  faceLines,
  inModel,
  lengthWords,
  massWords,
  surenessWords,
  volumeWords,
  type FactLine,
} from "./exact";
import { fitted, nearer, placeOf, squarely, standing, type Eye, type Standing } from "./eye";
import { pinOf, standsOn } from "./pins";
import { PickedFacts } from "./PickedFacts";
import type { PinPlace, SceneProps } from "./sceneProps";
import { SceneTreeList } from "./SceneTreeList";
import { SceneTree } from "./tree";
import { eyeAfterKey, useSceneHand } from "./useSceneHand";

const unitSigns: Readonly<Record<string, string>> = { millimetre: "mm" };
const nobody: ReadonlySet<number> = new Set();
const noColours: ReadonlyMap<number, string> = new Map();
/** Where each model was left, as long as the page is open. */
const left = new Map<string, { eye: Eye; hidden: ReadonlySet<number> }>();

const views: readonly { to: Standing; key: string; shift: boolean }[] = [
  { to: "front", key: "y", shift: false },
  { to: "back", key: "y", shift: true },
  { to: "right", key: "x", shift: false },
  { to: "left", key: "x", shift: true },
  { to: "top", key: "z", shift: false },
  { to: "bottom", key: "z", shift: true },
  { to: "frontRight", key: "o", shift: false },
  { to: "frontLeft", key: "o", shift: true },
];

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
  const [eye, setEye] = useState<Eye | null>(() => left.get(kept)?.eye ?? null);
  const [hidden, setHidden] = useState<ReadonlySet<number>>(() => left.get(kept)?.hidden ?? nobody);
  const [ghost, setGhost] = useState<ReadonlySet<number>>(nobody);
  const [picked, setPicked] = useState<readonly number[]>([]);
  const [taken, setTaken] = useState<Hit | null>(null);
  const [density, setDensity] = useState<Readonly<Record<number, string>>>({});
  const [isTreeOpen, setTreeOpen] = useState(!isSecond);
  const eyeRef = useRef(eye);
  const sizeOf = () => ({ width: frame.current?.clientWidth ?? 1, height: frame.current?.clientHeight ?? 1 });
  const { data: exact } = useQuery({
    queryKey: ["exact", draft, leaf.position],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${leaf.position}/exact`),
    staleTime: Infinity,
    enabled: taken !== null,
    meta: { saysItself: true },
  });

  const move = useCallback((next: Eye, isMoving: boolean) => {
    eyeRef.current = next;
    drawing.current?.setEye(next, isMoving);
    setEye(next);
  }, []);
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
      if (eyeRef.current) drawing.current?.setEye(eyeRef.current, false);
      else fit({ ...standing.frontRight, isPerspective: false });
    });
    watch.observe(frame.current!);
    return () => {
      watch.disconnect();
      drawing.current?.dispose();
      drawing.current = null;
    };
  }, [facts, tree, bytes, fit]);
  useEffect(() => drawing.current?.setLook({ hidden, ghost, colours: noColours }), [hidden, ghost]);
  useEffect(() => drawing.current?.setPicked(picked.flatMap((c) => tree.within(c))), [picked, tree]);
  useEffect(() => drawing.current?.setTaken(taken), [taken]);
  useEffect(() => {
    if (eye) left.set(kept, { eye, hidden });
  }, [kept, eye, hidden]);

  const pick = (component: number, isMore: boolean) => {
    setTaken(null);
    setPicked((was) =>
      isMore ? (was.includes(component) ? was.filter((c) => c !== component) : [...was, component]) : [component],
    );
  };
  useSceneHand({
    frame,
    eyeNow: () => eyeRef.current!,
    move,
    under: (x, y) => drawing.current?.pick(x, y)?.point ?? null,
    press: (x, y, isMore) => {
      const hit = drawing.current?.pick(x, y) ?? null;
      if (!hit) {
        if (!isMore) setPicked([]);
        setTaken(null);
        return;
      }
      pick(hit.component, isMore);
      if (!isMore) setTaken(hit);
    },
  });

  const all = useMemo(() => tree.components.flatMap((c, i) => (c.part === null ? [] : [i])), [tree]);
  const within = picked.flatMap((c) => tree.within(c)).filter((c) => tree.components[c]!.part !== null);
  const hide = (components: readonly number[], isHidden: boolean) =>
    setHidden((was) =>
      isHidden ? new Set([...was, ...components]) : new Set([...was].filter((c) => !components.includes(c))),
    );
  const showAll = () => {
    setHidden(nobody);
    setGhost(nobody);
  };
  const isolate = (rest: "hidden" | "ghost") => {
    const others = new Set(all.filter((c) => !within.includes(c)));
    setHidden(rest === "hidden" ? others : nobody);
    setGhost(rest === "ghost" ? others : nobody);
  };
  const look = (to: Standing) =>
    fit({ ...standing[to], isPerspective: eyeRef.current?.isPerspective ?? false }, picked.length > 0 ? within : null);
  const lookSquarely = taken ? () => move(squarely(eyeRef.current!, taken.normal, taken.point), false) : null;
  const togglePerspective = () => move({ ...eyeRef.current!, isPerspective: !eyeRef.current!.isPerspective }, false);
  useCommands("Model", isSecond ? "beside" : "bench", [
    ...views.map(({ to, key, shift }) => ({
      id: `look-${to}`,
      words: `Look at the model: ${standing[to].words.toLowerCase()}`,
      keys: [{ key, shift }],
      run: () => look(to),
    })),
    {
      id: "look-back-above",
      words: `Look at the model: ${standing.backAbove.words.toLowerCase()}`,
      keys: [],
      run: () => look("backAbove"),
    },
    {
      id: "perspective",
      words: "Perspective, or parallel",
      keys: [{ key: "p", shift: false }],
      run: togglePerspective,
    },
    {
      id: "squarely",
      words: "Look squarely at the face that is picked",
      keys: [{ key: "q", shift: false }],
      run: lookSquarely,
    },
    {
      id: "hide",
      words: "Hide what is picked",
      keys: [{ key: "h", shift: false }],
      run: within.length > 0 ? () => hide(within, true) : null,
    },
    {
      id: "isolate",
      words: "Show only what is picked",
      keys: [{ key: "i", shift: false }],
      run: within.length > 0 ? () => isolate("hidden") : null,
    },
    {
      id: "ghost",
      words: "Show the rest as a ghost",
      keys: [{ key: "g", shift: false }],
      run: within.length > 0 ? () => isolate("ghost") : null,
    },
    {
      id: "show-all",
      words: "Show everything",
      keys: [{ key: "a", shift: true }],
      run: hidden.size + ghost.size > 0 ? showAll : null,
    },
  ]);
  useImperativeHandle(handle, () => ({
    fit: () => fit(eyeRef.current ?? { ...standing.frontRight, isPerspective: false }),
    zoom: (factor) => {
      const { width, height } = sizeOf();
      move(nearer(eyeRef.current!, factor, width / 2, height / 2, width, height), false);
    },
  }));

  const lookedAt = useRef<typeof lookAt>(null);
  useEffect(() => {
    if (!lookAt?.pin || lookedAt.current === lookAt || !eyeRef.current) return;
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
  }, [lookAt, eye, move, tree]);
  const place: PinPlace = (pin) => {
    const component = standsOn(tree, pin);
    const { width, height } = sizeOf();
    if (component === null || hidden.has(component) || !eye) return null;
    return placeOf(eye, inModel(tree.placed[component]!, pin.at, false), width, height);
  };
  const pinHere = onPin && taken ? () => onPin(pinOf(tree, taken, eyeRef.current!, hidden)) : null;
  const one = picked.length === 1 ? picked[0]! : null;
  const said = picked.length > 0 && (
    <PickedFacts
      isFloating={!isTreeOpen}
      {...(one !== null
        ? factsOf(one)
        : { title: `${picked.length} components`, of: null, lines: [], sureness: "", density: null })}
      acts={[
        ...(pinHere ? [{ words: "Note here (Enter)", run: pinHere }] : []),
        ...(lookSquarely ? [{ words: "Look squarely (Q)", run: lookSquarely }] : []),
        { words: "Fit", run: () => fit(eyeRef.current!, within) },
        { words: "Hide (H)", run: () => hide(within, true) },
        { words: "Only this (I)", run: () => isolate("hidden") },
        { words: "Rest as ghost (G)", run: () => isolate("ghost") },
      ]}
      onClose={() => {
        setPicked([]);
        setTaken(null);
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
          if (e.target !== e.currentTarget || e.altKey || e.ctrlKey || e.metaKey || !eyeRef.current) return;
          const { width, height } = sizeOf();
          const next = eyeAfterKey(eyeRef.current, e, width, height);
          if (next) {
            e.preventDefault();
            move(next, false);
          } else if (e.key === "Enter" && pinHere) {
            e.preventDefault();
            pinHere();
          } else if (e.key === "Escape" && picked.length > 0) {
            setPicked([]);
            setTaken(null);
          }
        }}
      >
        {fault ? (
          <div className="absolute inset-0 grid place-items-center">
            <img
              alt="The model"
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
        {eye && !fault && <AxesSign eye={eye} />}
        {overlay?.(place)}
        {!isTreeOpen && said}
      </div>
    </div>
  );

  /** What is said of a component, and of the face or edge of it that is taken. */
  function factsOf(component: number): {
    title: string;
    of: string | null;
    lines: FactLine[];
    sureness: string;
    density: { value: string; onChange: (value: string) => void } | null;
  } {
    const { part: index } = tree.components[component]!;
    const title = tree.wordsOf(component);
    if (index === null)
      return {
        title,
        of: `${tree.within(component).filter((c) => tree.components[c]!.part !== null).length} pieces`,
        lines: [],
        sureness: "",
        density: null,
      };
    const part = facts.parts[index]!;
    const known = exact?.parts[index];
    const at = tree.placed[component]!;
    if (taken?.component === component && known) {
      const edge = taken.edge === null ? undefined : known.edges[taken.edge];
      const face = known.faces[taken.face];
      const said = edge ? edgeLines(edge, at, unit) : face ? faceLines(face, at, unit) : null;
      const isExact = part.isExact && (edge ? edge.curve !== "free" : face?.surface !== "free");
      if (said && said.lines.length > 0)
        return {
          title,
          of: said.title,
          lines: said.lines,
          sureness: surenessWords(edge ?? face!, isExact, part.deviation, unit),
          density: null,
        };
    }
    const typed = density[index] ?? "";
    const stated = part.density ?? Number(typed.replace(",", "."));
    const size = part.box ? [0, 1, 2].map((k) => part.box![k + 3]! - part.box![k]!) : null;
    const lines: FactLine[] = [
      ...(part.material ? [{ words: "Material", value: part.material }] : []),
      ...(part.volume !== null ? [{ words: "Volume", value: volumeWords(part.volume, unit) }] : []),
      { words: "Area", value: areaWords(part.area, unit) },
      ...(part.volume !== null && stated > 0 && unit === "mm"
        ? [{ words: `Mass at ${stated} g/cm³`, value: massWords(part.volume, stated) }]
        : []),
      ...(size ? [{ words: "Box", value: size.map((n) => lengthWords(n, "")).join(" × ") }] : []),
    ];
    return {
      title,
      of: tree.quantityOf(index) > 1 ? `one of ${tree.quantityOf(index)}` : null,
      lines,
      sureness: part.isExact ? "exact" : "from the mesh",
      density:
        part.density === null && part.volume !== null && unit === "mm"
          ? { value: typed, onChange: (value) => setDensity((was) => ({ ...was, [index]: value })) }
          : null,
    };
  }
}

const pickEye = ({ turn, tilt, isPerspective }: Pick<Eye, "turn" | "tilt" | "isPerspective">) => ({
  turn,
  tilt,
  isPerspective,
});

/** What some components cover. */
function boxOf(tree: SceneTree, facts: SceneFacts, components: readonly number[]): readonly number[] {
  const box = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (const c of components) {
    const own = facts.parts[tree.components[c]!.part ?? -1]?.box;
    if (!own) continue;
    const m = tree.placed[c]!;
    for (let i = 0; i < 8; i++)
      for (let r = 0; r < 3; r++) {
        const value =
          m[4 * r]! * own[i & 1 ? 3 : 0]! +
          m[4 * r + 1]! * own[i & 2 ? 4 : 1]! +
          m[4 * r + 2]! * own[i & 4 ? 5 : 2]! +
          m[4 * r + 3]!;
        box[r] = Math.min(box[r]!, value);
        box[r + 3] = Math.max(box[r + 3]!, value);
      }
  }
  return box[0]! <= box[3]! ? box : (facts.box ?? [0, 0, 0, 1, 1, 1]);
}
