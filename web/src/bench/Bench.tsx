import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { newKey } from "../api/key";
import {
  isSheet,
  isTable,
  type NamedDocument,
  type NoteMark,
  type NoteRow,
  type PackageView,
  type Point,
  type Shape,
} from "../api/types";
import { Empty } from "../ui/kit";
import { SheetView } from "../viewer/SheetView";
import type { Place as SheetPlace, SheetHandle } from "../viewer/sheet";
import { reachOf } from "../viewer/shapes";
import { useWarmPages } from "../viewer/surface/useWarmPages";
import { FoundCells } from "../viewer/table/FoundCells";
import { TableView } from "../viewer/table/TableView";
import { Together } from "../viewer/together";
import { FindBox } from "../viewer/find/FindBox";
import { FoundMarks } from "../viewer/find/FoundMarks";
import { cornersOf, useFind, type Hit } from "../viewer/find/useFind";
import { SheetStrip } from "../viewer/SheetStrip";
import { ScaleMenu } from "../viewer/scale/ScaleMenu";
import { ScalingLine, useScaling } from "../viewer/scale/useScaling";
import { Advice } from "./Advice";
import { AnswerBar } from "./AnswerBar";
import { BenchBar } from "./BenchBar";
import { ItemList } from "./ItemList";
import { NoteComposer, type Composing } from "../notes/NoteComposer";
import { NotedBar } from "./NotedBar";
import { NotesPanel } from "../notes/NotesPanel";
import { carriedTo, lyingOf } from "./lying";
import { Overlay } from "./Overlay";
import { FileMarks, useFileMarks } from "./FileMarks";
import { CARRIED, FROM_FILE, OverlaysMenu } from "./OverlaysMenu";
import { RangeMarks } from "./RangeMarks";
import { ReviewHead } from "./ReviewHead";
import { Release } from "./Release";
import { RoundLine } from "./RoundLine";
import { MarkingLine } from "./MarkingLine";
import { SheetTools } from "./SheetTools";
import { SidePane } from "./SidePane";
import { besideOf, likeliestBeside, pictureOf, useShown } from "./useShown";
import { NamedCells } from "../viewer/named/NamedCells";
import { NamedMarks } from "../viewer/named/NamedMarks";
import { useNamed } from "../viewer/named/useNamed";
import { NoSheet } from "../viewer/NoSheet";
import { SheetWarnings } from "./SheetWarnings";
import { useBenchKeys } from "./useBenchKeys";
import { useHand, type ToolName } from "./useHand";
import { useMarking } from "./useMarking";
import { VerdictBar, type Choice } from "./VerdictBar";

export function Bench() {
  const { id } = useParams();
  const { data, error } = useQuery({
    queryKey: ["package", id],
    queryFn: () => api.get(`/packages/${id}`),
    meta: { saysItself: true },
  });
  // What could not be fetched anew takes nothing away that somebody is typing.
  if (!data) return error ? <Empty title="This package could not be opened">{error.message}</Empty> : null;
  return <LoadedBench key={data.id} p={data} />;
}

/** Where to look: a new one each time, so that the same place is gone to again. */
type LookAt = { document: string; leaf: number; points: readonly Point[] };
const lookAt = (m: NoteMark): LookAt => ({
  document: m.document,
  leaf: m.place.leaf,
  points: reachOf(m.shape),
});

function LoadedBench({ p }: { p: PackageView }) {
  const me = useMe();
  const [params] = useSearchParams();
  const asked = p.notes.find((n) => n.number === Number(params.get("note")));
  const { index, setIndex, item, draft, setDraftOf, position, setPosition, beside, setBeside } = useShown(p, {
    document: asked?.document,
    leaf: asked?.marks[0]?.place.leaf,
  });
  const [together, setTogether] = useState<Together | null>(null);
  const [tool, setTool] = useState<ToolName>("look");
  const [picked, setPicked] = useState<string | null>(asked?.id ?? null);
  const [pickedMark, setPickedMark] = useState<string | null>(null);
  const [place, setPlace] = useState<LookAt | null>(asked?.marks[0] ? lookAt(asked.marks[0]) : null);
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const [layers, setLayers] = useState<{ name: string; isOn: boolean }[]>([]);
  const [composing, setComposing] = useState<Composing | null>(null);
  /** The note that gets another place by what is drawn next. */
  const [placing, setPlacing] = useState<string | null>(null);
  const [active, setActive] = useState<string | null>(null);
  const [choices, setChoices] = useState<Record<string, Choice>>({});
  const sheet = useRef<SheetHandle>(null);
  const { data: sheets } = useQuery({
    queryKey: ["sheets", draft],
    queryFn: () => api.get(`/drafts/${draft}/leaves`),
    staleTime: Infinity,
  });
  useWarmPages(p.items.map((i) => i.fileName));
  // A link may name a sheet that a later draft does not have.
  const leaf = sheets?.find((s) => s.position === position) ?? sheets?.[0];
  const table = isTable(leaf) ? leaf : null;
  const fileMarks = useFileMarks(draft, leaf);
  const find = useFind({ draft, leaf: position, package: p.id });
  // One's own seat first, then that of somebody away whose deputy one is.
  const mine = p.may.seats[0];
  const notes = useMemo(() => p.notes.filter((n) => n.places.some((at) => at.draft === draft)), [p, draft]);
  const { marking, overlays, mayDraw } = useMarking(draft);
  const canDraw = p.may.write && draft === item.draft && mayDraw;
  const placed = p.notes.find((n) => n.id === placing) ?? null;
  const own = overlays.filter((o) => o.owner === me.id);
  const drawnOn = own.find((o) => o.id === active)?.id ?? own[0]?.id ?? null;
  const carried = useMemo(() => carriedTo(notes, item.document, draft), [notes, draft, item.document]);
  const byId = useMemo(() => new Map(p.notes.map((n) => [n.id, n])), [p]);
  const marks = marking.store.all().filter((m) => m.leaf === position && !hidden.has(m.overlay ?? drawnOn ?? ""));
  const lying = lyingOf(position, marks, hidden.has(CARRIED) ? [] : carried, byId);
  const pickMark = (id: string | null) => {
    setPickedMark(id);
    const note = lying.find((m) => m.id === id)?.note;
    if (note) setPicked(note.id);
  };
  const scaling = useScaling(draft, position);
  const named = useNamed(draft, leaf?.position);
  const follow = (to: NamedDocument) => setBeside(besideOf(p, to));
  const chooseTool = (chosen: ToolName) => {
    scaling.done();
    setTool(chosen);
  };
  const onDrawn = (shape: Shape) => {
    setTool("look");
    const mark = { id: newKey(), overlay: drawnOn, leaf: position, shape };
    // What is drawn is to be seen.
    setHidden(new Set([...hidden].filter((h) => h !== drawnOn)));
    if (!placed) return setComposing({ mark });
    marking.draw({ ...mark, note: placed.id, zone: null, mayChange: true });
    setPlacing(null);
  };
  const { hand, preview } = useHand({
    tool,
    marking,
    marks: lying.map((m) => ({ ...m, overlay: null, leaf: position, zone: null, note: m.note?.id ?? null })),
    picked: pickedMark,
    onPick: pickMark,
    onDrawn,
  });
  const composer = (where: { place: SheetPlace; unit: number }) =>
    composing?.mark && (
      <NoteComposer
        p={p}
        draft={item.draft}
        composing={composing}
        where={where}
        canRequest={p.may.request}
        onKeep={() => {
          marking.draw({ ...composing.mark!, note: null, zone: null, mayChange: true });
          setComposing(null);
        }}
        onDone={() => setComposing(null)}
      />
    );
  const canErase = marks.some((m) => m.id === pickedMark && m.mayChange);

  // What a person has had open before them: signing many at once asks for it.
  useEffect(() => void api.post(`/drafts/${draft}/opened`).catch(() => undefined), [draft]);

  // Verdicts belong to bytes: a draft that changed under the page takes its verdict with it.
  const drafts = p.items.map((i) => i.draft).join();
  useEffect(() => setChoices({}), [drafts]);

  const open = useCallback(
    (i: number) => {
      setIndex(i);
      setDraftOf(null);
      setPosition(0);
      setPlace(null);
      setComposing(null);
      setPickedMark(null);
    },
    [setIndex, setDraftOf, setPosition],
  );
  /** Goes to a place of a note: the one named, or its first on the draft in view, or its first. */
  const goTo = useCallback(
    (n: NoteRow, named?: NoteMark) => {
      setPicked(n.id);
      const mark = named ?? n.marks.find((m) => m.draft === draft) ?? n.marks[0];
      setPickedMark(mark?.id ?? null);
      const at = p.items.findIndex((i) => i.document === (mark ?? n).document);
      if (at >= 0 && at !== index) open(at);
      if (!mark) return;
      // A place that the draft under review does not carry is looked at where it was drawn.
      const now = p.items[at];
      const isThere = now && (mark.draft === now.draft || n.places.some((x) => x.draft === now.draft));
      setDraftOf(isThere ? null : mark.draft);
      setPosition(mark.place.leaf);
      setPlace(lookAt(mark));
    },
    [p, index, open, draft, setDraftOf, setPosition],
  );
  const showBeside = () => setBeside(beside ? null : likeliestBeside(p, index, draft, position, sheets?.length ?? 0));

  const goToFound = (hit: Hit) => {
    const at = p.items.findIndex((i) => i.draft === hit.draft);
    if (at >= 0 && at !== index) open(at);
    setPosition(hit.leaf);
    setPlace({
      document: (p.items[at] ?? item).document,
      leaf: hit.leaf,
      points: hit.covers.flatMap(cornersOf),
    });
  };

  useBenchKeys({
    undo: canDraw ? () => marking.undo() : null,
    redo: canDraw ? () => marking.redo() : null,
    verdict: mine
      ? (verdict) => setChoices((c) => ({ ...c, [item.draft]: { verdict, reason: c[item.draft]?.reason ?? "" } }))
      : null,
    next: () => open((index + 1) % p.items.length),
    tool: chooseTool,
    canDraw: canDraw && !table,
    fit: () => sheet.current?.fit(),
    beside: showBeside,
    leave: () => {
      setTool("look");
      scaling.done();
      setPlacing(null);
      setPickedMark(null);
    },
  });

  return (
    <>
      <BenchBar
        p={p}
        onFind={find.open}
        isBeside={beside !== null}
        onBeside={showBeside}
        layers={layers}
        setLayers={setLayers}
        overlays={
          <OverlaysMenu
            draft={draft}
            overlays={overlays}
            mayDraw={canDraw}
            carried={carried.length}
            fromFile={fileMarks.length}
            hidden={hidden}
            setHidden={setHidden}
            active={drawnOn}
            setActive={setActive}
          />
        }
      />
      <main className="flex min-h-0 flex-1">
        <ItemList p={p} index={index} choices={choices} onOpen={open} isNarrow={beside !== null} />
        <div className="flex min-w-0 flex-1 flex-col bg-table">
          <div className="flex min-h-0 flex-1">
            <div className="relative min-w-0 flex-1">
              <SheetTools
                tool={tool}
                setTool={chooseTool}
                canDraw={canDraw}
                isTable={table !== null}
                canUndo={marking.history.canUndo}
                canRedo={marking.history.canRedo}
                onUndo={() => marking.undo()}
                onRedo={() => marking.redo()}
                onErase={canErase ? () => marking.erase(pickedMark!) : null}
                sheet={sheet}
              />
              <FindBox
                find={find}
                scopes={[
                  { scope: "sheet", words: table ? "This table" : "This sheet" },
                  { scope: "document", words: "This document" },
                  { scope: "package", words: "The package" },
                ]}
                nameOf={(d) => p.items.find((i) => i.draft === d)?.number ?? item.number}
                onGo={goToFound}
              />
              <MarkingLine
                sync={marking.sync}
                placing={placed}
                onStop={() => {
                  setPlacing(null);
                  setTool("look");
                }}
              />
              {draft !== item.draft && (
                <p
                  className="absolute top-3 left-1/2 z-20 -translate-x-1/2 border border-ochre bg-raised px-3 py-1 text-ochre"
                  role="status"
                >
                  This is the earlier draft {item.revision}.{item.earlierDrafts.find((e) => e.draft === draft)?.ordinal}
                  , not the one under review.{" "}
                  <button type="button" className="font-semibold underline" onClick={() => setDraftOf(null)}>
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
                    handle={sheet}
                    lookAt={place?.document === item.document && place.leaf === position ? place.points : null}
                    draft={draft}
                    leaf={table}
                    together={beside ? together : null}
                    onNote={canDraw ? onDrawn : null}
                    overlay={(over) => (
                      <>
                        <FoundCells find={find} draft={draft} leaf={position} over={over} />
                        <NamedCells named={named} over={over} onFollow={follow} />
                        <RangeMarks
                          marks={lying}
                          over={over}
                          pickedMark={pickedMark}
                          pickedNote={picked}
                          onPick={(m) => pickMark(m.id)}
                        />
                      </>
                    )}
                    floating={(place) => composer({ place, unit: 1 })}
                  />
                </div>
              )}
              {sheets?.length !== 0 && !table && (
                <SheetView
                  handle={sheet}
                  lookAt={place?.document === item.document && place.leaf === position ? place.points : null}
                  draft={draft}
                  leaf={isSheet(leaf) ? leaf : undefined}
                  isPlain={hidden.has(FROM_FILE)}
                  pictureOf={(file) => pictureOf(p, file)}
                  hand={scaling.isMeasuring ? scaling.hand : hand}
                  together={beside ? together : null}
                  layersOn={layers.length > 0 ? layers.map((l) => l.isOn) : null}
                  onLayers={setLayers}
                  corner={
                    isSheet(leaf) && (
                      <ScaleMenu key={`${draft}/${leaf.position}`} draft={draft} leaf={leaf} scaling={scaling} />
                    )
                  }
                  overlay={(place, unit) => (
                    <>
                      <FoundMarks find={find} draft={draft} leaf={position} place={place} />
                      <NamedMarks named={named} place={place} onFollow={follow} />
                      <Overlay
                        marks={lying}
                        preview={preview}
                        place={place}
                        unit={unit}
                        pickedMark={pickedMark}
                        pickedNote={picked}
                        onPick={(m) => pickMark(m.id)}
                      />
                      {scaling.overlay(place)}
                      {composer({ place, unit })}
                    </>
                  )}
                />
              )}
            </div>
            {beside && (
              <SidePane
                p={p}
                at={beside}
                onChange={setBeside}
                together={together}
                setTogether={(on) => setTogether(on ? new Together() : null)}
                pickedNote={picked}
                onPick={(n) => setPicked(n.id)}
              />
            )}
          </div>
          <SheetStrip draft={draft} sheets={sheets} position={position} onPick={setPosition} />
          <RoundLine p={p} item={item} draft={draft} onDraft={setDraftOf} />
        </div>
        <aside aria-label="Review" className="flex w-[330px] shrink-0 flex-col border-l border-rule bg-raised">
          <ReviewHead p={p} item={item} />
          <NotesPanel
            p={p}
            draft={draft}
            notes={notes}
            how={
              table
                ? "Pick cells of the table and say what they are about (Enter)."
                : "Draw a cloud (C) or an arrow (A) on the sheet and say what it is about."
            }
            picked={picked}
            onPick={goTo}
            onPlace={canDraw ? setPlacing : null}
            below={
              <FileMarks
                marks={fileMarks}
                onGo={({ box }) =>
                  setPlace({
                    document: item.document,
                    leaf: position,
                    points: [
                      { x: box.minX, y: box.minY },
                      { x: box.maxX, y: box.maxY },
                    ],
                  })
                }
                onAnswer={
                  canDraw
                    ? ({ box }) =>
                        setComposing({
                          mark: {
                            id: newKey(),
                            overlay: drawnOn,
                            leaf: position,
                            shape: {
                              shape: "cloud",
                              from: { x: box.minX, y: box.minY },
                              to: { x: box.maxX, y: box.maxY },
                            },
                          },
                        })
                    : null
                }
              />
            }
            composer={
              p.may.write &&
              draft === item.draft &&
              (composing && !composing.mark ? (
                <NoteComposer
                  p={p}
                  draft={item.draft}
                  composing={composing}
                  where={null}
                  canRequest={p.may.request}
                  onKeep={null}
                  onDone={() => setComposing(null)}
                />
              ) : (
                <button type="button" className="underline" onClick={() => setComposing({ mark: null })}>
                  Write a note about the whole
                </button>
              ))
            }
          />
          <Advice p={p} canAsk={p.may.askAdvice} />
          {mine && (
            <VerdictBar
              p={p}
              item={item}
              seat={mine.seat}
              absent={mine.for === me.id ? null : mine.for}
              choices={choices}
              setChoices={setChoices}
              onNext={() => open((index + 1) % p.items.length)}
            />
          )}
          {p.may.sendAgain && <AnswerBar p={p} onGo={goTo} />}
          {(p.isHeld || p.may.answerNoted) && <NotedBar p={p} canAnswer={p.may.answerNoted} />}
          {p.standing === "released" && <Release p={p} />}
        </aside>
      </main>
    </>
  );
}
