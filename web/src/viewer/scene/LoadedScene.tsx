import { useCallback, useEffect, useImperativeHandle, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { SceneFacts } from "../../api/types";
import { SceneDrawing } from "./drawing";
import { Cross } from "../Cross";
import { partedWays } from "./apart";
import { boxOf, densityWords, factsOf } from "./componentFacts";
import {
  axesOf,
  dot,
  fitted,
  nearer,
  squarely,
  pickEye,
  standing,
  times,
  type Eye,
  type Standing,
} from "../camera/eye";
import { ClearanceLine } from "./ClearanceLine";
import { DrawOnView } from "./DrawOnView";
import { FlatSection } from "./FlatSection";
import { NotDrawn } from "./NotDrawn";
import { PartsTable } from "./PartsTable";
import { planeOf } from "./onView";
import { numbersOf, pinOf } from "./pins";
import { EyeNow } from "./eyeNow";
import { OverScene } from "./OverScene";
import { PickedFacts } from "./PickedFacts";
import type { SceneOver, SceneProps } from "./sceneProps";
import { OpenSide, SceneSide, type SideTab } from "./SceneSide";
import { SectionHandle } from "./SectionHandle";
import { ScenePanels } from "./ScenePanels";
import { ThreePoints } from "./SectionPanel";
import { StatedMarks } from "./StatedMarks";
import { stretchWords } from "./sections";
import { SceneTree } from "./tree";
import { useBetween } from "./useBetween";
import { useExact } from "./useExact";
import { useFlat } from "./useFlat";
import { useFoundAgain, useStandingOn } from "./useFoundAgain";
import { useGoing } from "./useGoing";
import { useMeasured } from "./useMeasured";
import { usePicking } from "./usePicking";
import { useSceneCommands } from "./useSceneCommands";
import { leftAt, useLeft } from "./useLeft";
import { useHoldOnView } from "./useHoldOnView";
import { useSceneHand } from "./useSceneHand";
import { useSceneKeys } from "./useSceneKeys";
import { useSections } from "./useSections";
import { asUsual, paints, useShown } from "./useShown";
import { useStated } from "./useStated";
import { useTint } from "./useTint";
import { UnitMenu } from "./UnitMenu";
import { unitOf } from "./units";
import { useTurnedBox } from "./useTurnedBox";
import { eyeOf, keptOf, sectionsOf, shownOf, toldEye } from "./viewNow";

const none: readonly never[] = [];
const PICKS = "Arrows move the cross, with Shift finer; Space picks, Shift and Space a second one";
/** A pane that is narrower has no room for the tree beside the model, CSS pixels. */
const NARROW = 520;

/** A model that is here. */
export function LoadedScene(props: SceneProps & { facts: SceneFacts; bytes: ArrayBuffer }) {
  const { draft, leaf, facts, bytes, handle, isSecond, onShown, overlay, onSet, lookAt = null } = props;
  const { onNumbers, onDocument = null, requests = none } = props;
  const {
    hand = null,
    onMark = null,
    isMarked = null,
    measures = none,
    carried = none,
    onErase = null,
    pinWords = "Note here",
    keptSections,
  } = props;
  const frame = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const drawing = useRef<SceneDrawing | null>(null);
  const tree = useMemo(() => new SceneTree(facts.components), [facts]);
  const box = facts.box ?? [0, 0, 0, 1, 1, 1];
  const { sign: unit, millimetres } = unitOf(facts, leaf);
  const kept = `${draft}/${leaf.position}/${leaf.prepared}`;
  const [fault, setFault] = useState<string | null>(null);
  const [eyes] = useState(() => new EyeNow(leftAt(kept)?.eye ?? null));
  /** Whether there is an eye: from then on it may be sent somewhere. */
  const [isReady, setReady] = useState(false);
  const parts = useShown(tree, leftAt(kept)?.shown ?? asUsual);
  const { hidden, ghost, colours, apart } = parts;
  const picking = usePicking(tree, facts);
  const { picked, taken, second, within, pick } = picking;
  const [density, setDensity] = useState<Readonly<Record<number, string>>>({});
  /** Where somebody chose: whether the tree is open; otherwise it is where there is room for it. */
  const [treeWanted, setTreeOpen] = useState<boolean | null>(null);
  const [isWide, setWide] = useState(false);
  const isTreeOpen = treeWanted ?? (isWide && !isSecond);
  const [tab, setTab] = useState<SideTab>("parts");
  const [hasTable, setTable] = useState(false);
  const whole = useRef<HTMLDivElement>(null);
  /** Whether all of the model is in view since it was asked for: then it stays so when the window changes. */
  const isFitted = useRef(false);
  const sizeOf = () => ({ width: frame.current?.clientWidth ?? 1, height: frame.current?.clientHeight ?? 1 });
  const exact = useExact(draft, leaf, taken !== null || measures.length > 0);

  const move = useCallback(
    (next: Eye, isMoving: boolean) => {
      isFitted.current = false;
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
      isFitted.current = components === null;
    },
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the box is that of the facts
    [move, tree, facts],
  );

  // Whether there is room for the tree is known before the model is drawn: drawn for another width, a large one would be drawn twice.
  useLayoutEffect(() => setWide(whole.current!.clientWidth >= NARROW), []);
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
      const { width, height } = sizeOf();
      setWide(whole.current!.clientWidth >= NARROW);
      if (width === 0 || height === 0) return;
      drawing.current?.resize(width, height);
      const eye = eyes.now();
      if (eye && !isFitted.current) move(eye, false);
      else fit(eye ?? { ...standing.frontRight, isPerspective: false });
      setReady(true);
    });
    watch.observe(frame.current!);
    watch.observe(whole.current!);
    return () => {
      watch.disconnect();
      drawing.current?.dispose();
      drawing.current = null;
    };
  }, [facts, tree, bytes, fit, eyes, move]);
  const found = useFoundAgain(draft, leaf.position, carried);
  const tint = useTint(draft, leaf.position, tree, densityWords(density), useStandingOn(requests, found, tree));
  // What is painted by hand stays so whatever the rest is tinted by.
  const painted = useMemo(() => new Map([...tint.colours, ...colours]), [tint.colours, colours]);
  useEffect(() => drawing.current?.setLook({ hidden, ghost, colours: painted }), [hidden, ghost, painted]);
  const stated = useStated(tree, facts, bytes, [draft, leaf.position], {
    drawing,
    parts,
    picking,
    eyes,
    move,
    size: sizeOf,
  });
  useEffect(() => onNumbers?.(numbersOf(tree, picked)), [onNumbers, tree, picked]);
  const isApart = apart > 0;
  const wholeWays = useMemo(() => (isApart ? partedWays(tree, facts) : null), [isApart, tree, facts]);
  const ways = useMemo(() => wholeWays && wholeWays.map((w) => times(apart, w)), [wholeWays, apart]);
  useEffect(() => drawing.current?.setApart(ways), [ways]);
  const uncut = useMemo(() => new Set([...hidden, ...ghost]), [hidden, ghost]);
  const sections = useSections({
    ...{ draft, position: leaf.position, box, without: uncut, isApart, drawing },
    ...{ begun: leftAt(kept)?.sections ?? null, kept: keptSections },
  });
  useEffect(() => drawing.current?.setPicked(picked.flatMap((c) => tree.within(c))), [picked, tree]);
  useEffect(() => drawing.current?.setTaken([taken, second].filter((t) => t !== null)), [taken, second]);
  const between = useBetween(draft, leaf.position, picking.two, unit);
  const measured = useMeasured(draft, leaf.position, measures, { tree, facts, exact, unit });
  const laid = useFlat({ drawing, tree, facts, hidden, measured, onSet: onSet ?? null, eyeNow: () => eyes.now() });
  useLeft(kept, eyes, parts.now, sections.all);

  const plane = () => planeOf(eyes.now()!, sizeOf().width, sizeOf().height);
  const press = (x: number, y: number, isMore: boolean) => {
    const cut = drawing.current?.picker.cut(x, y) ?? null;
    const hit = cut ? null : (drawing.current?.picker.hit(x, y) ?? null);
    const at = (cut ?? hit)?.point;
    if (sections.points) {
      if (at) sections.addPoint(at, axesOf(eyes.now()!).back);
    } else if (cut) pick(cut.component, isMore);
    else if (!onMark?.(eyes.now()!, plane().pointAt(x, y), plane().unit)) picking.press(hit, isMore);
  };
  useSceneHand({
    frame,
    eyeNow: () => eyes.now()!,
    move,
    under: (x, y) => drawing.current?.picker.point(x, y) ?? null,
    press,
  });
  useHoldOnView({ frame, hand, plane, isOn: (at, unit) => isMarked?.(eyes.now()!, at, unit) ?? false });

  const all = useMemo(() => tree.components.flatMap((c, i) => (c.part === null ? [] : [i])), [tree]);
  const open = (side: SideTab) => {
    setTreeOpen(true);
    setTab(side);
  };
  // A flat face that is picked: what stands out of it is taken away.
  const isFlat = taken && exact?.parts[tree.components[taken.component]!.part!]?.faces[taken.face]?.surface === "plane";
  const face = isFlat ? { along: taken.normal, at: dot(taken.normal, taken.point) } : null;
  // What is picked, or what is left to be seen; all of it otherwise.
  const shownOnes = all.filter((c) => !hidden.has(c));
  const seenFirst = picked.length > 0 ? within : hidden.size > 0 && shownOnes.length > 0 ? shownOnes : null;
  const look = (to: Standing) => fit({ ...standing[to], isPerspective: eyes.now()?.isPerspective ?? false }, seenFirst);
  const lookSquarely = taken ? () => move(squarely(eyes.now()!, taken.normal, taken.point), false) : null;
  const togglePerspective = () => move({ ...eyes.now()!, isPerspective: !eyes.now()!.isPerspective }, false);
  const eyeTold = () => toldEye(eyes.now()!, hidden, sections.all);
  const of = picking.measured;
  // The end of an edge has no size of its own.
  const keepMeasure =
    onSet && of && !(of.length === 1 && of[0]!.isCorner)
      ? () => onSet({ shape: "modelMeasure", of, eye: eyeTold() })
      : null;
  useSceneCommands(isSecond ? "beside" : null, {
    look,
    togglePerspective,
    lookSquarely,
    hide: within.length > 0 ? () => parts.hide(within, true) : null,
    isolate: within.length > 0 ? () => parts.isolate(within, "hidden") : null,
    ghost: within.length > 0 ? () => parts.isolate(within, "ghost") : null,
    showAll: parts.isUsual ? null : parts.showAll,
    cut: () => {
      open("sections");
      if (face) sections.add(face);
      else sections.addAcross(1);
    },
    partsList: () => setTable((was) => !was),
    keepMeasure,
  });
  useImperativeHandle(handle, () => ({
    eye: () => (eyes.now() ? eyeTold() : null),
    fit: () => fit(eyes.now() ?? { ...standing.frontRight, isPerspective: false }),
    zoom: (factor) => {
      const { width, height } = sizeOf();
      move(nearer(eyes.now()!, factor, width / 2, height / 2, width, height), false);
    },
  }));

  useGoing(lookAt, isReady, { draft, tree, facts, move, fit, eyes, parts, sections, picking });
  const pinHere = onSet && taken ? () => onSet(pinOf(tree, taken, eyeTold())) : null;
  const keys = useSceneKeys({
    ...{ plane, move, hand, press, eyeNow: () => eyes.now(), size: sizeOf },
    ...{ pin: pinHere, erase: onErase },
    leave: () => (sections.points ? sections.wantPoints(false) : picking.components([])),
  });
  const overAll = (over: SceneOver) => (
    <>
      {overlay?.(over)}
      {hand?.isDrawing && <DrawOnView hand={hand} plane={over.plane} />}
    </>
  );
  const one = picked.length === 1 ? picked[0]! : null;
  const turned = useTurnedBox(draft, leaf.position, one === null || taken ? null : tree.components[one]!.part);
  const its = one !== null && onDocument ? tint.documentOf(one) : null;
  const said = picked.length > 0 && (
    <PickedFacts
      isFloating={!isTreeOpen}
      {...(between
        ? { title: picking.isTwo ? "2 components" : "Between the two", ...between, density: null }
        : one !== null
          ? factsOf(one, {
              ...{ tree, facts, exact, taken, unit, millimetres, density, turned },
              setDensity: (part, value) => setDensity((was) => ({ ...was, [part]: value })),
            })
          : { title: `${picked.length} components`, of: null, lines: [], sureness: "", density: null })}
      // Beside another there is room for what is said, and no more.
      acts={
        isSecond
          ? []
          : [
              ...(pinHere ? [{ words: `${pinWords} (Enter)`, run: pinHere }] : []),
              ...(keepMeasure ? [{ words: "Keep the measure (M)", run: keepMeasure }] : []),
              ...(lookSquarely ? [{ words: "Look squarely (Q)", run: lookSquarely }] : []),
              ...(its ? [{ words: `${its.name.number} beside`, run: () => onDocument!(its) }] : []),
              { words: "Fit", run: () => fit(eyes.now()!, within) },
              { words: "Hide (H)", run: () => parts.hide(within, true) },
              { words: "Only this (I)", run: () => parts.isolate(within, "hidden") },
              { words: "Rest as ghost (G)", run: () => parts.isolate(within, "ghost") },
            ]
      }
      paints={
        isSecond
          ? null
          : {
              given: within.length > 0 && within.every((c) => colours.has(c)),
              choices: paints,
              onPaint: (colour) => parts.paint(within, colour),
            }
      }
      onClose={() => picking.components([])}
    />
  );
  return (
    <div
      ref={whole}
      className={`absolute inset-0 flex ${isWide ? "" : "flex-col-reverse"}`}
      data-keys={isSecond ? "beside" : undefined}
    >
      {isTreeOpen && (
        <SceneSide
          isBeside={isWide}
          tab={tab}
          onTab={setTab}
          onClose={() => setTreeOpen(false)}
          cuts={sections.all.filter((s) => s.isOn).length}
        >
          <ScenePanels
            {...{ tab, draft, tree, facts, parts, picking, hasTable, sections, box, unit, face, tint, stated, look }}
            {...{ isApart, onDocument }}
            position={leaf.position}
            onTable={() => setTable(!hasTable)}
            onFlat={laid.setFlat}
            now={() => keptOf(eyes.now()!, parts.now, sections.all, sections.isVeiled)}
            show={(view, isOfThisDraft) => {
              move(eyeOf(view.eye), false);
              if (isOfThisDraft) parts.set(shownOf(view));
              sections.setAll(sectionsOf(view));
              sections.setVeiled(view.isVeiled);
            }}
          />
          {said}
        </SceneSide>
      )}
      <div className="relative flex min-h-0 min-w-0 flex-1 flex-col">
        <div
          ref={frame}
          id={isSecond ? undefined : "sheet"}
          role="application"
          tabIndex={0}
          data-testid="model"
          aria-label={`Model of ${all.length} pieces. Arrow keys turn it, with Shift they move it; plus and minus near it.`}
          className="relative min-h-0 flex-1 touch-none overflow-hidden bg-table outline-none focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-spruce"
          onKeyDown={keys.onKeyDown}
        >
          {fault ? (
            <NotDrawn {...{ draft, fault, onShown }} position={leaf.position} />
          ) : (
            <canvas ref={canvas} className="absolute inset-0 h-full w-full" aria-hidden="true" />
          )}
          {!isTreeOpen && <OpenSide onOpen={() => setTreeOpen(true)} />}
          {!fault && (
            <OverScene
              {...{ eyes, tree, hidden, frame, ways, found, measured }}
              overlay={overAll}
              isUnseen={(p) => drawing.current?.picker.isUnseen(p) ?? false}
              drawn={[ghost, sections.cutting, sections.cuts, isReady]}
            >
              {(eye) => (
                <>
                  {tab === "sections" && isTreeOpen && !isApart && sections.chosen?.isOn && (
                    <SectionHandle
                      {...{ eye, box, frame, section: sections.chosen }}
                      onMove={(at) => sections.change(sections.chosen!.id, { at })}
                    />
                  )}
                  <StatedMarks {...{ eye, tree, hidden, ways, frame }} shown={stated.shown} onPick={stated.goTo} />
                  {between?.ends && !isApart && <ClearanceLine {...{ eye, frame, between: between.ends }} />}
                </>
              )}
            </OverScene>
          )}
          {facts.unit === "unknown" && !isSecond && (
            <div data-on-sheet>
              <UnitMenu draft={draft} leaf={leaf} />
            </div>
          )}
          {keys.cross && <Cross {...keys.cross} zone="" />}
          {keys.spot && <Cross at={keys.spot} zone="" isSecond={false} words={PICKS} />}
          {sections.points && <ThreePoints count={sections.points.length} />}
          {!isTreeOpen && said}
        </div>
        {hasTable && (
          <PartsTable
            draft={draft}
            position={leaf.position}
            picked={within}
            densities={densityWords(density)}
            onPick={picking.components}
            onClose={() => setTable(false)}
          />
        )}
        {laid.flat && (
          <FlatSection
            {...{ draft, unit, section: laid.flat, without: stretchWords(uncut) }}
            {...{ diagonal: laid.diagonal, kept: laid.kept, onKeep: laid.keep }}
            position={leaf.position}
            onClose={() => laid.setFlat(null)}
          />
        )}
      </div>
    </div>
  );
}
