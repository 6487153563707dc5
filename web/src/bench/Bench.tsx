import { useQuery } from "@tanstack/react-query";
import { ScrollText, Signpost } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { newKey } from "../api/key";
import { type NoteMark, type NoteRow, type PackageView, type Point, type Verdict } from "../api/types";
import { Empty, RoundTag, SideSheet, StandingTag } from "../ui/kit";
import { SheetView, type SheetHandle } from "../viewer/SheetView";
import { SheetTabs } from "../viewer/SheetTabs";
import { Advice } from "./Advice";
import { AnswerBar } from "./AnswerBar";
import { HistoryList } from "./History";
import { ItemList } from "./ItemList";
import { LayersMenu } from "./LayersMenu";
import { NoteComposer, type Composing } from "./NoteComposer";
import { NotedBar } from "./NotedBar";
import { NotesPanel } from "./NotesPanel";
import { Overlay, type Lying } from "./Overlay";
import { CARRIED, OverlaysMenu } from "./OverlaysMenu";
import { ReviewHead } from "./ReviewHead";
import { Release } from "./Release";
import { RoundLine } from "./RoundLine";
import { MarkingLine } from "./MarkingLine";
import { SheetTools } from "./SheetTools";
import { SlipActs } from "./SlipActs";
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
  points: [m.shape.from, m.shape.to],
});

function LoadedBench({ p }: { p: PackageView }) {
  const me = useMe();
  const [params] = useSearchParams();
  const asked = p.notes.find((n) => n.number === Number(params.get("note")));
  const [index, setIndex] = useState(() =>
    Math.max(
      0,
      p.items.findIndex((i) => i.document === asked?.document),
    ),
  );
  const [draftOf, setDraftOf] = useState<string | null>(null);
  const [position, setPosition] = useState(asked?.marks[0]?.place.leaf ?? 0);
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
  const [ledger, setLedger] = useState(false);
  const [acting, setActing] = useState(false);
  const sheet = useRef<SheetHandle>(null);
  const item = p.items[Math.min(index, p.items.length - 1)]!;
  const draft = draftOf && item.earlierDrafts.some((e) => e.draft === draftOf) ? draftOf : item.draft;
  const { data: sheets } = useQuery({
    queryKey: ["sheets", draft],
    queryFn: () => api.get(`/drafts/${draft}/leaves`),
    staleTime: Infinity,
  });
  // One's own seat first, then that of somebody away whose deputy one is.
  const mine = p.may.seats[0];
  const notes = useMemo(() => p.notes.filter((n) => n.places.some((at) => at.draft === draft)), [p, draft]);
  const { marking, overlays, mayDraw } = useMarking(draft);
  const canDraw = p.may.write && draft === item.draft && mayDraw;
  const placed = p.notes.find((n) => n.id === placing) ?? null;
  const own = overlays.filter((o) => o.owner === me.id);
  const drawnOn = own.find((o) => o.id === active)?.id ?? own[0]?.id ?? null;
  const carried = useMemo(
    () =>
      notes
        .filter((n) => n.places.some((at) => at.draft === draft && at.how === "carried"))
        .flatMap((n) =>
          n.marks.filter((m) => m.document === item.document && m.draft !== draft).map((m) => ({ n, m })),
        ),
    [notes, draft, item.document],
  );
  const byId = useMemo(() => new Map(p.notes.map((n) => [n.id, n])), [p]);
  const marks = marking.store.all().filter((m) => m.leaf === position && !hidden.has(m.overlay ?? drawnOn ?? ""));
  const lying: Lying[] = [
    ...(hidden.has(CARRIED) ? [] : carried)
      .filter(({ m }) => m.place.leaf === position)
      .map(({ n, m }) => ({ id: m.id, shape: m.shape, note: n, mayChange: false, isCarried: true })),
    ...marks.map((m) => ({
      id: m.id,
      shape: m.shape,
      note: (m.note && byId.get(m.note)) || null,
      mayChange: m.mayChange,
      isCarried: false,
    })),
  ];
  const pickMark = (id: string | null) => {
    setPickedMark(id);
    const note = lying.find((m) => m.id === id)?.note;
    if (note) setPicked(note.id);
  };
  const { hand, preview } = useHand({
    tool,
    marking,
    marks: lying.map((m) => ({ ...m, overlay: null, leaf: position, zone: null, note: m.note?.id ?? null })),
    picked: pickedMark,
    onPick: pickMark,
    onDrawn: (shape) => {
      setTool("look");
      const mark = { id: newKey(), overlay: drawnOn, leaf: position, shape };
      // What is drawn is to be seen.
      setHidden(new Set([...hidden].filter((h) => h !== drawnOn)));
      if (!placed) return setComposing({ mark });
      marking.draw({ ...mark, note: placed.id, zone: null, mayChange: true });
      setPlacing(null);
    },
  });
  const canErase = marks.some((m) => m.id === pickedMark && m.mayChange);

  // What a person has had open before them: signing many at once asks for it.
  useEffect(() => void api.post(`/drafts/${draft}/opened`).catch(() => undefined), [draft]);

  // Verdicts belong to bytes: a draft that changed under the page takes its verdict with it.
  const drafts = p.items.map((i) => i.draft).join();
  useEffect(() => setChoices({}), [drafts]);

  const open = useCallback((i: number) => {
    setIndex(i);
    setDraftOf(null);
    setPosition(0);
    setPlace(null);
    setComposing(null);
    setPickedMark(null);
  }, []);
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
    [p, index, open, draft],
  );

  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      const typed = (e.target as HTMLElement).closest("input,textarea,[role=dialog],[role=menu]");
      if ((e.ctrlKey || e.metaKey) && !e.altKey && !typed && canDraw) {
        const word = e.key.toLowerCase();
        if (word !== "z" && word !== "y") return;
        e.preventDefault();
        if (word === "y" || e.shiftKey) marking.redo();
        else marking.undo();
        return;
      }
      if (e.ctrlKey || e.metaKey || e.altKey || typed) return;
      const verdicts: Record<string, Verdict> = { "1": "approve", "2": "approveAsNoted", "3": "returnForChanges" };
      const verdict = verdicts[e.key];
      if (verdict && mine)
        setChoices((c) => ({ ...c, [item.draft]: { verdict, reason: c[item.draft]?.reason ?? "" } }));
      else if (e.key === "n") open((index + 1) % p.items.length);
      else if (e.key === "v") setTool("look");
      else if (e.key === "c" && canDraw) setTool("cloud");
      else if (e.key === "a" && canDraw) setTool("arrow");
      else if (e.key === "f") sheet.current?.fit();
      else if (e.key === "Escape") {
        setTool("look");
        setPlacing(null);
        setPickedMark(null);
      }
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [mine, item, index, open, p, canDraw, marking]);

  return (
    <>
      <PlaceBar
        title={
          <span className="flex items-center gap-3">
            <Link to="/" className="font-normal text-soft hover:underline">
              Desk
            </Link>
            <span aria-hidden className="text-rule">
              ›
            </span>
            <span className="truncate">{p.title}</span>
          </span>
        }
        beside={
          <span className="flex items-center gap-3">
            <span className="font-mono text-sm">{p.number}</span>
            <RoundTag round={p.round} />
            <StandingTag standing={p.standing} />
          </span>
        }
      >
        <LayersMenu layers={layers} onChange={setLayers} />
        <OverlaysMenu
          draft={draft}
          overlays={overlays}
          mayDraw={canDraw}
          carried={carried.length}
          hidden={hidden}
          setHidden={setHidden}
          active={drawnOn}
          setActive={setActive}
        />
        <button
          type="button"
          className="inline-flex min-h-8 items-center gap-2 rounded-[5px] border border-[#c9c4b5] bg-raised px-3 font-medium hover:bg-white"
          onClick={() => setLedger(true)}
        >
          <ScrollText size={15} /> Ledger
        </button>
        <button
          type="button"
          className="inline-flex min-h-8 items-center gap-2 rounded-[5px] border border-[#c9c4b5] bg-raised px-3 font-medium hover:bg-white"
          onClick={() => setActing(true)}
        >
          <Signpost size={15} /> Route
        </button>
        <SlipActs p={p} open={acting} onClose={() => setActing(false)} />
      </PlaceBar>
      <main className="flex min-h-0 flex-1">
        <ItemList p={p} index={index} choices={choices} onOpen={open} />
        <div className="flex min-w-0 flex-1 flex-col bg-table">
          <div className="relative min-h-0 flex-1">
            <SheetTools
              tool={tool}
              setTool={setTool}
              canDraw={canDraw}
              canUndo={marking.history.canUndo}
              canRedo={marking.history.canRedo}
              onUndo={() => marking.undo()}
              onRedo={() => marking.redo()}
              onErase={canErase ? () => marking.erase(pickedMark!) : null}
              sheet={sheet}
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
                This is the earlier draft {item.revision}.{item.earlierDrafts.find((e) => e.draft === draft)?.ordinal},
                not the one under review.{" "}
                <button type="button" className="font-semibold underline" onClick={() => setDraftOf(null)}>
                  Back
                </button>
              </p>
            )}
            {item.notShown.length > 0 && (
              <p className="absolute bottom-2 left-14 z-20 bg-raised px-2 py-0.5 text-sm text-ochre">
                Not shown: {item.notShown.map((n) => `${n.count} × ${n.type}`).join(", ")}
              </p>
            )}
            <SheetTabs sheets={sheets} position={position} onPick={setPosition} />
            <SheetView
              handle={sheet}
              lookAt={place?.document === item.document && place.leaf === position ? place.points : null}
              draft={draft}
              position={position}
              hand={hand}
              layersOn={layers.length > 0 ? layers.map((l) => l.isOn) : null}
              onLayers={setLayers}
              overlay={(place, unit) => (
                <>
                  <Overlay
                    marks={lying}
                    preview={preview}
                    place={place}
                    unit={unit}
                    pickedMark={pickedMark}
                    pickedNote={picked}
                    onPick={(m) => pickMark(m.id)}
                  />
                  {composing?.mark && (
                    <NoteComposer
                      p={p}
                      draft={item.draft}
                      composing={composing}
                      where={{ place, unit }}
                      canRequest={p.may.request}
                      onKeep={() => {
                        marking.draw({ ...composing.mark!, note: null, zone: null, mayChange: true });
                        setComposing(null);
                      }}
                      onDone={() => setComposing(null)}
                    />
                  )}
                </>
              )}
            />
          </div>
          <RoundLine p={p} item={item} draft={draft} onDraft={setDraftOf} />
        </div>
        <aside aria-label="Review" className="flex w-[330px] shrink-0 flex-col border-l border-rule bg-raised">
          <ReviewHead p={p} item={item} />
          <NotesPanel
            p={p}
            draft={draft}
            notes={notes}
            picked={picked}
            onPick={goTo}
            onPlace={canDraw ? setPlacing : null}
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
      <SideSheet title={`Ledger of ${p.number}`} open={ledger} onClose={() => setLedger(false)}>
        <PackageLedger id={p.id} />
      </SideSheet>
    </>
  );
}

function PackageLedger({ id }: { id: string }) {
  const { data } = useQuery({
    queryKey: ["package", id, "ledger"],
    queryFn: () => api.get(`/packages/${id}/ledger`),
  });
  return data ? <HistoryList entries={data} /> : <p role="status">Fetching the ledger …</p>;
}
