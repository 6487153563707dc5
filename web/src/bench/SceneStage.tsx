import { useMemo, type ReactNode } from "react";
import type { Point, SceneLeaf, Shape } from "../api/types";
import type { Eye } from "../viewer/camera/eye";
import { windowPoint } from "../viewer/camera/points";
import { useKept } from "../kept/useKept";
import type { SectionPlane } from "../viewer/scene/sections";
import { WordsHere } from "./WordsHere";
import type { SceneOver } from "../viewer/scene/sceneProps";
import { SceneView } from "../viewer/scene/SceneView";
import { distanceTo } from "../viewer/shapes";
import type { Place } from "../viewer/sheet";
import { onViews } from "./drawing";
import { MeasureMarks } from "./MeasureMarks";
import { Overlay } from "./Overlay";
import { PinMarks } from "./PinMarks";
import type { BenchNow } from "./useBench";
import type { Panes } from "./usePanes";
import { seenBy, viewMarks } from "./viewMarks";

/** How near a line on a view the hand must come, in CSS pixels. */
const NEAR = 7;
const saysNothing = () => null;
const noSections: readonly SectionPlane[] = [];

type Where = { place: Place; unit: number; seen?: Shape };

/** The model that is worked on, with what is marked on it. */
export function SceneStage({
  b,
  scene,
  composer,
  panes,
}: {
  b: BenchNow;
  panes: Panes;
  scene: SceneLeaf;
  composer: (where: Where) => ReactNode;
}) {
  const { lying, state, begun, draft } = b;
  const keptSections = useKept<readonly SectionPlane[]>(`sections of ${draft} ${scene.position}`, noSections, "habit");
  const pickedMark = state.pickedMark;
  const measures = useMemo(
    () => lying.flatMap((m) => (m.shape.shape === "modelMeasure" ? [{ id: m.id, shape: m.shape }] : [])),
    [lying],
  );
  const carried = useMemo(
    () => lying.flatMap((m) => (m.shape.shape === "pin" && m.from ? [{ id: m.id, shape: m.shape, from: m.from }] : [])),
    [lying],
  );
  /** Components that an open request stands on. */
  const requests = useMemo(
    () =>
      lying.flatMap(({ id, shape, note }) =>
        shape.shape === "pin" && note?.kind === "request" && note.standing === "open" ? [{ id, shape }] : [],
      ),
    [lying],
  );
  /** Where what is being written about is. */
  const about = (over: SceneOver): Where => {
    const shape = begun.value?.mark?.shape;
    if (shape?.shape === "onView") {
      const seen = seenBy(shape, over.eye);
      if (seen) return { place: over.plane.place, unit: over.plane.unit, seen };
    }
    const at =
      shape?.shape === "pin" ? over.place(shape) : shape?.shape === "modelMeasure" ? over.place(shape.of[0]!) : null;
    return { place: () => at ?? windowPoint(8, 8), unit: 1 };
  };
  const markAt = (eye: Eye, at: Point, unit: number) =>
    viewMarks(lying, eye).findLast((m) => distanceTo(m.shape, at, unit) <= NEAR * unit);
  const { writing } = b.writing;
  const isDrawnOn = b.canDraw && state.tool !== "look" && onViews.includes(state.tool);
  return (
    <SceneView
      handle={b.sheet}
      draft={draft}
      leaf={scene}
      onShown={b.onShown}
      lookAt={panes.look.main ?? b.lookAtScene}
      onNumbers={panes.onNumbers}
      onDocument={b.follow}
      requests={requests}
      onSet={b.canDraw ? b.onDrawn : null}
      keptSections={{
        now: keptSections.value,
        keep: (all) => (all.length > 0 ? keptSections.set(all) : keptSections.discard()),
      }}
      pinWords={b.placing ? "Place the note here" : undefined}
      hand={isDrawnOn || (b.canDraw && state.tool === "look") ? b.hand : null}
      isMarked={(eye, at, unit) => markAt(eye, at, unit) !== undefined}
      onMark={(eye, at, unit) => {
        const near = markAt(eye, at, unit);
        if (near || pickedMark !== null) b.pickMark(near?.id ?? null);
        return near !== undefined;
      }}
      measures={measures}
      carried={carried}
      onErase={b.erase}
      overlay={(over) => (
        <>
          <Overlay
            draft={draft}
            marks={viewMarks(lying, over.eye)}
            inHand={b.inHand}
            place={over.plane.place}
            unit={over.plane.unit}
            valueOf={saysNothing}
            pickedMark={pickedMark}
            others={b.others}
            pickedNote={state.pickedNote}
            onPick={(m) => b.pickMark(m.id)}
          />
          <MeasureMarks marks={lying} over={over} pickedMark={pickedMark} onPick={(m) => b.pickMark(m.id)} />
          <PinMarks
            marks={lying}
            over={over}
            pickedMark={pickedMark}
            pickedNote={state.pickedNote}
            onPick={(m) => b.pickMark(m.id)}
          />
          {composer(about(over))}
          {writing?.leaf === scene.position && writing.shape.shape === "onView" && (
            <WordsHere b={b} place={over.plane.place} seen={seenBy(writing.shape, over.eye) ?? writing.shape} />
          )}
        </>
      )}
    />
  );
}
