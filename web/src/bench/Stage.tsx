import { useMemo } from "react";
import { isSheet, type Point, type Shape } from "../api/types";
import { NoteComposer } from "../notes/NoteComposer";
import { Afterwards } from "../ui/Afterwards";
import { isStillIn } from "../ui/unlessGoneOn";
import { FindBox } from "../viewer/find/FindBox";
import { FoundMarks } from "../viewer/find/FoundMarks";
import { NamedCells } from "../viewer/named/NamedCells";
import { NamedMarks } from "../viewer/named/NamedMarks";
import { factorAt, valueOn } from "../viewer/measure";
import { NoSheet } from "../viewer/NoSheet";
import { ScaleMenu } from "../viewer/scale/ScaleMenu";
import { ScalingLine } from "../viewer/scale/useScaling";
import type { Place } from "../viewer/sheet";
import { keepPane } from "../viewer/earlyPicture";
import { SheetView } from "../viewer/SheetView";
import { SnapSign } from "../viewer/snap/SnapSign";
import { FoundCells } from "../viewer/table/FoundCells";
import { TableView } from "../viewer/table/TableView";
import { zoneCorners } from "../viewer/zone";
import { MarkingLine } from "./MarkingLine";
import { Overlay } from "./Overlay";
import { FROM_FILE } from "./OverlaysMenu";
import { PointField } from "./PointField";
import { RangeMarks } from "./RangeMarks";
import { SceneStage } from "./SceneStage";
import { SheetTools } from "./SheetTools";
import { ShownIn } from "./ShownIn";
import { SheetWarnings } from "./SheetWarnings";
import { SecondUnitChoice } from "./SecondUnitChoice";
import { TypedDimensions } from "./TypedDimensions";
import { WordsHere } from "./WordsHere";
import type { BenchNow } from "./useBench";
import type { Panes } from "./usePanes";
import { pictureOf } from "./useShown";
import { focusSheet } from "../viewer/focusSheet";

/** From where a point is typed now. */
function typedFrom(b: BenchNow) {
  const { last, towards } = b.reach();
  const origin = b.origin ?? { x: 0, y: 0 };
  return { last, towards, origin, factor: factorAt(b.leaf, last ?? towards ?? origin) };
}

/** What was begun and is not seen now: a note, words of a markup, or a note on the draft before. */
function foldedOn({ begun, writing, state, position, act, ...b }: BenchNow) {
  const goOn = "Go on writing";
  const openAt = (leaf: number | undefined) => () => {
    b.setDraftOf(null);
    if (leaf !== undefined) b.setPosition(leaf);
    act({ does: "fold", isFolded: false });
  };
  const [note, words] = [begun.value, writing.writing];
  if (note && (state.isFolded || (note.mark && note.mark.leaf !== position)))
    return {
      ...{ says: "A note that you began is kept here.", goOn },
      ...{ onOpen: openAt(note.mark?.leaf), onDiscard: begun.discard },
    };
  if (words && writing.isWritten && (state.isFolded || words.leaf !== position))
    return {
      ...{ says: "Words that you began are kept here.", goOn },
      ...{ onOpen: openAt(words.leaf), onDiscard: writing.discard },
    };
  if (b.leftWords)
    return {
      ...{ says: "A note that you began on the last draft is kept; this is the next.", goOn: "Write it on this draft" },
      ...{ onOpen: b.leftWords.take, onDiscard: b.leftWords.discard },
    };
  if (!writing.left || !b.canDraw) return null;
  const { take, discard } = writing.left;
  return {
    ...{ says: "Words that you began on the last draft are kept; this is the next.", goOn: "Write them on this draft" },
    ...{ onOpen: take, onDiscard: discard },
  };
}

/** The sheet, table or model that is worked on, with the tools beside it and everything that lies over it. */
export function Stage({ b, panes }: { b: BenchNow; panes: Panes }) {
  const { p, item, draft, position, leaf, table, scene, state, act, find, scaling, sheets, begun, marking } = b;
  const second = b.second.value;
  const valueOf = useMemo(() => valueOn(leaf, second), [leaf, second]);
  // What was written about is looked at next; whoever has gone on while it was on its way is not called back.
  const done = () => {
    const isHere = isStillIn(document.activeElement?.closest("[data-on-sheet]") ?? null);
    begun.discard();
    if (isHere) focusSheet();
  };
  const composer = (where: { place: Place; unit: number; seen?: Shape }) =>
    begun.value?.mark &&
    begun.value.mark.leaf === position &&
    draft === item.draft &&
    !state.isFolded && (
      <NoteComposer
        key={begun.value.key}
        p={p}
        draft={item.draft}
        begun={begun.value}
        lying={marking.store.find(begun.value.mark.id)}
        version={marking.store.versionOf(begun.value.mark.id)}
        onChange={begun.set}
        where={where}
        canRequest={p.may.request}
        onKeep={() => {
          const mark = begun.value!.mark!;
          if (!marking.store.find(mark.id))
            marking.draw({ ...mark, note: null, zone: null, mayChange: true, tie: null, rank: 0 });
          done();
        }}
        onFold={() => {
          act({ does: "fold", isFolded: true });
          focusSheet();
        }}
        onDone={done}
      />
    );
  const lookAtZone = (points: readonly Point[]) =>
    act({ does: "look at", at: { document: item.document, leaf: position, points } });
  return (
    <div className="relative min-w-0 flex-1">
      <Afterwards>
        {() => (
          <SheetTools
            tool={state.tool}
            setTool={b.chooseTool}
            canDraw={b.canDraw}
            names={b.drawnHere}
            onUndo={b.undo}
            onRedo={b.redo}
            onNote={b.noteTo}
            onWrite={b.canDraw ? b.writing.anew(state.pickedMark) : null}
            arranging={b.arranging}
            onErase={b.erase}
            sheet={b.sheet}
          />
        )}
      </Afterwards>
      <FindBox
        find={find}
        scopes={[
          { scope: "sheet", words: table ? "This table" : scene ? "This model" : "This sheet" },
          { scope: "document", words: "This document" },
          { scope: "package", words: "The package" },
        ]}
        nameOf={(d) => p.items.find((i) => i.draft === d)?.number ?? item.number}
        onGo={b.goToFound}
        onNote={b.canDraw ? b.noteOnFound : null}
        zone={{ of: (words) => zoneCorners(isSheet(leaf) ? (leaf.grid ?? null) : null, words), onGo: lookAtZone }}
      />
      <MarkingLine
        sync={marking.sync}
        placing={b.placing}
        counted={b.counted}
        onStop={() => act({ does: "placed" })}
        says={state.says}
        folded={foldedOn(b)}
      />
      {draft !== item.draft && (
        <p
          className="absolute top-3 left-1/2 z-20 -translate-x-1/2 border border-ochre bg-raised px-3 py-1 text-ochre"
          role="status"
        >
          This is the earlier draft {item.revision}.{item.earlierDrafts.find((e) => e.draft === draft)?.ordinal}, not
          the one under review.{" "}
          <button type="button" className="font-semibold underline" onClick={() => b.setDraftOf(null)}>
            Back
          </button>
        </p>
      )}
      <ScalingLine scaling={scaling} />
      <SheetWarnings notShown={item.notShown} leaf={leaf} pictureOf={(file) => pictureOf(p, file)} />
      {sheets?.length === 0 && <NoSheet draft={draft} />}
      {table && (
        <div className="absolute inset-y-0 right-0 left-[50px]">
          <TableView
            handle={b.sheet}
            lookAt={b.lookAtPoints}
            draft={draft}
            leaf={table}
            together={b.beside ? b.together : null}
            onNote={b.canDraw ? b.onDrawn : null}
            overlay={(over) => (
              <>
                <FoundCells find={find} draft={draft} leaf={position} over={over} />
                <NamedCells links={panes.links} over={over} />
                <RangeMarks
                  marks={b.lying}
                  over={over}
                  pickedMark={state.pickedMark}
                  pickedNote={state.pickedNote}
                  onPick={(m) => b.pickMark(m.id)}
                />
              </>
            )}
            floating={(place) => composer({ place, unit: 1 })}
          />
        </div>
      )}
      {scene && (
        <div className="absolute inset-y-0 right-0 left-[50px]">
          <SceneStage b={b} scene={scene} composer={composer} panes={panes} />
        </div>
      )}
      {sheets?.length !== 0 && !table && !scene && (
        <SheetView
          handle={b.sheet}
          lookAt={b.lookAtPoints}
          draft={draft}
          leaf={isSheet(leaf) ? leaf : undefined}
          isPlain={state.hidden.has(FROM_FILE)}
          pictureOf={(file) => pictureOf(p, file)}
          hand={scaling.isMeasuring ? scaling.hand : b.hand}
          together={b.beside ? b.together : null}
          layersOn={b.layers.length > 0 ? b.layers.map((l) => l.isOn) : null}
          onLayers={b.setLayers}
          onShown={b.onShown}
          onLaid={b.beside ? undefined : (pane) => keepPane(pane, sheets?.length ?? 1)}
          origin={b.origin}
          corner={
            isSheet(leaf) && (
              <>
                <ShownIn
                  key={draft}
                  {...panes.shownIn}
                  draft={draft}
                  document={b.item.document}
                  onOpen={panes.openModel}
                />
                <ScaleMenu key={`${draft}/${leaf.position}`} draft={draft} leaf={leaf} scaling={scaling}>
                  <SecondUnitChoice value={b.second.value} onChange={b.second.set} />
                  <TypedDimensions
                    draft={draft}
                    nameOf={(at) => sheets?.find((s) => s.position === at)?.name ?? ""}
                    onGo={b.lookAtPlace}
                    onNote={b.canDraw ? b.noteOn : null}
                  />
                </ScaleMenu>
              </>
            )
          }
          overlay={(place, unit) => (
            <>
              <FoundMarks find={find} draft={draft} leaf={position} place={place} />
              <NamedMarks links={panes.links} place={place} />
              <Overlay
                draft={draft}
                marks={b.lying}
                inHand={b.inHand}
                place={place}
                unit={unit}
                valueOf={valueOf}
                pickedMark={state.pickedMark}
                others={b.others}
                pickedNote={state.pickedNote}
                onPick={(m) => b.pickMark(m.id)}
              />
              <SnapSign inHand={b.inHand} place={place} />
              {b.isTypingPoint && (
                <PointField
                  fromNow={() => typedFrom(b)}
                  inHand={b.inHand}
                  onPoint={(at) => b.hand.place({ at, unit, isFree: true })}
                  onDone={() => {
                    b.setTypingPoint(false);
                    focusSheet();
                  }}
                />
              )}
              {scaling.overlay(place)}
              {composer({ place, unit })}
              {b.writing.writing?.leaf === position && <WordsHere b={b} place={place} />}
            </>
          )}
        />
      )}
    </div>
  );
}
