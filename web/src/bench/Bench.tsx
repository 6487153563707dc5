import { Formatted } from "../ui/Formatted";
import { useQuery } from "@tanstack/react-query";
import { ArrowUpRight, Cloud, Hand, Layers, Maximize, ScrollText, Signpost, ZoomIn, ZoomOut } from "lucide-react";
import { Popover } from "radix-ui";
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { stepsOf, type NoteRow, type PackageView, type Point, type Shape, type Verdict, planOf } from "../api/types";
import { Clamped } from "../ui/Clamped";
import { Empty, RoundTag, SideSheet, StandingTag } from "../ui/kit";
import { usePeople } from "../ui/people";
import { Strip } from "../ui/Strip";
import { VerdictMark } from "../ui/VerdictMark";
import { SheetView, type SheetHandle, type Tool } from "../viewer/SheetView";
import { SheetTabs } from "../viewer/SheetTabs";
import { Advice } from "./Advice";
import { AnswerBar } from "./AnswerBar";
import { HistoryList } from "./History";
import { NoteComposer } from "./NoteComposer";
import { NotedBar } from "./NotedBar";
import { NotesPanel } from "./NotesPanel";
import { Overlay } from "./Overlay";
import { RoundLine } from "./RoundLine";
import { stripOf } from "./strip";
import { IntakeAnswers } from "./IntakeAnswers";
import { SlipActs } from "./SlipActs";
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

type NotePlace = { document: string; sheet: number; points: readonly Point[] };
const placeOf = (n: NoteRow): NotePlace => {
  const { from, to } = n.shape as unknown as Shape;
  return { document: n.document, sheet: n.sheet, points: [from, to] };
};

function LoadedBench({ p }: { p: PackageView }) {
  const me = useMe();
  const people = usePeople();
  const [params] = useSearchParams();
  const asked = p.notes.find((n) => n.number === Number(params.get("note")));
  const [index, setIndex] = useState(() =>
    Math.max(
      0,
      p.items.findIndex((i) => i.document === asked?.document),
    ),
  );
  const [draftOf, setDraftOf] = useState<string | null>(null);
  const [position, setPosition] = useState(asked?.sheet ?? 0);
  const [tool, setTool] = useState<Tool>("look");
  const [picked, setPicked] = useState<string | null>(asked?.id ?? null);
  const [place, setPlace] = useState<NotePlace | null>(asked ? placeOf(asked) : null);
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const [layers, setLayers] = useState<{ name: string; isOn: boolean }[]>([]);
  const [drawn, setDrawn] = useState<Shape | null>(null);
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
  const step = stepsOf(planOf(p.slip)).find((s) => s.key === mine?.step);
  const notes = useMemo(() => p.notes.filter((n) => n.places.some((at) => at.draft === draft)), [p, draft]);
  const shown = notes.filter((n) => n.sheet === position && !hidden.has(n.author));
  const authors = [...new Map(p.notes.map((n) => [n.author, n.authorName])).entries()];
  const canDraw = p.may.write && draft === item.draft;

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
    setDrawn(null);
  }, []);
  const goTo = useCallback(
    (n: NoteRow) => {
      setPicked(n.id);
      const at = p.items.findIndex((i) => i.document === n.document);
      if (at >= 0 && at !== index) open(at);
      setPosition(n.sheet);
      setPlace(placeOf(n));
    },
    [p, index, open],
  );

  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (
        e.ctrlKey ||
        e.metaKey ||
        e.altKey ||
        (e.target as HTMLElement).closest("input,textarea,[role=dialog],[role=menu]")
      )
        return;
      const verdicts: Record<string, Verdict> = { "1": "approve", "2": "approveAsNoted", "3": "returnForChanges" };
      const verdict = verdicts[e.key];
      if (verdict && mine)
        setChoices((c) => ({ ...c, [item.draft]: { verdict, reason: c[item.draft]?.reason ?? "" } }));
      else if (e.key === "n") open((index + 1) % p.items.length);
      else if (e.key === "v") setTool("look");
      else if (e.key === "c" && canDraw) setTool("cloud");
      else if (e.key === "a" && canDraw) setTool("arrow");
      else if (e.key === "f") sheet.current?.fit();
      else if (e.key === "Escape") setTool("look");
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [mine, item, index, open, p, canDraw]);

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
        <BarPopover icon={<Layers size={15} />} words="Layers">
          <p className="label mb-1">Layers of this sheet</p>
          {layers.map((l, i) => (
            <label key={l.name} className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="accent-spruce"
                checked={l.isOn}
                onChange={() => setLayers(layers.map((x, k) => (k === i ? { ...x, isOn: !x.isOn } : x)))}
              />
              <span className="truncate">{l.name}</span>
            </label>
          ))}
          <div className="mt-2 flex gap-3">
            <button
              type="button"
              className="underline"
              onClick={() => setLayers(layers.map((l) => ({ ...l, isOn: true })))}
            >
              All on
            </button>
            <button
              type="button"
              className="underline"
              onClick={() => setLayers(layers.map((l) => ({ ...l, isOn: false })))}
            >
              All off
            </button>
          </div>
        </BarPopover>
        <BarPopover icon={<Layers size={15} />} words={`Overlays ${authors.length - hidden.size}`}>
          <p className="label mb-1">Whose overlay lies over the sheet</p>
          {authors.length === 0 && <p className="text-soft">No one has marked anything yet.</p>}
          {authors.map(([author, name]) => (
            <label key={author} className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="accent-spruce"
                checked={!hidden.has(author)}
                onChange={() =>
                  setHidden(new Set(hidden.has(author) ? [...hidden].filter((h) => h !== author) : [...hidden, author]))
                }
              />
              {author === me.id ? "Yours" : name}
            </label>
          ))}
        </BarPopover>
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
        <nav aria-label="Items of the package" className="w-[212px] shrink-0 overflow-y-auto border-r border-rule">
          <h2 className="label px-3 pt-3 pb-1">
            {p.items.length} {p.items.length === 1 ? "item" : "items"}
          </h2>
          {p.items.map((i, k) => {
            const mySignOff = p.signOffs.find((s) => s.stands && s.person === me.id);
            const verdict =
              choices[i.draft]?.verdict ??
              (mySignOff?.verdicts.find((v) => v.draft === i.draft)?.verdict as Verdict | undefined) ??
              null;
            const requests = p.notes.filter(
              (n) => n.document === i.document && n.kind === "request" && n.standing !== "closed",
            ).length;
            return (
              <button
                key={i.document}
                type="button"
                aria-current={k === index}
                className={`relative flex w-full gap-2.5 border-b border-rule px-3 py-2.5 text-left ${k === index ? "bg-picked shadow-[inset_3px_0_0_var(--color-spruce)]" : "hover:bg-[#edeae0]"}`}
                onClick={() => open(k)}
              >
                <span className="relative shrink-0">
                  <img
                    src={`/api/drafts/${i.draft}/leaves/0/small`}
                    alt=""
                    className="h-[44px] w-[62px] border border-rule bg-white object-contain"
                  />
                  {requests > 0 && (
                    <span
                      className="absolute -top-1.5 -left-1.5 rounded-[3px] bg-rust px-1.5 text-xs leading-4 font-semibold text-white"
                      title={`${requests} open requests`}
                    >
                      {requests}
                    </span>
                  )}
                </span>
                <span className="min-w-0 flex-1">
                  <span className="flex items-center gap-1.5">
                    <b className="font-mono text-sm font-semibold">{i.number}</b>
                    <span className="font-mono text-sm text-soft">
                      {i.revision}.{i.ordinal}
                    </span>
                    <span className="ml-auto">{(mine || mySignOff) && <VerdictMark verdict={verdict} />}</span>
                  </span>
                  <span className="block truncate">{i.title}</span>
                </span>
              </button>
            );
          })}
        </nav>
        <div className="flex min-w-0 flex-1 flex-col bg-table">
          <div className="relative min-h-0 flex-1">
            <div
              role="toolbar"
              aria-label="Sheet tools"
              aria-orientation="vertical"
              className="absolute top-3 left-2 z-20 flex flex-col gap-1"
            >
              <ToolButton
                words="Look"
                shortcut="V"
                active={tool === "look"}
                onClick={() => setTool("look")}
                icon={<Hand size={18} strokeWidth={1.6} />}
              />
              {canDraw && (
                <>
                  <ToolButton
                    words="Cloud"
                    shortcut="C"
                    active={tool === "cloud"}
                    onClick={() => setTool("cloud")}
                    icon={<Cloud size={18} strokeWidth={1.6} />}
                  />
                  <ToolButton
                    words="Arrow"
                    shortcut="A"
                    active={tool === "arrow"}
                    onClick={() => setTool("arrow")}
                    icon={<ArrowUpRight size={18} strokeWidth={1.6} />}
                  />
                </>
              )}
              <span className="h-2" />
              <ToolButton
                words="Zoom in"
                shortcut="+"
                onClick={() => sheet.current?.zoom(1.4)}
                icon={<ZoomIn size={18} strokeWidth={1.6} />}
              />
              <ToolButton
                words="Zoom out"
                shortcut="−"
                onClick={() => sheet.current?.zoom(1 / 1.4)}
                icon={<ZoomOut size={18} strokeWidth={1.6} />}
              />
              <ToolButton
                words="Fit"
                shortcut="F"
                onClick={() => sheet.current?.fit()}
                icon={<Maximize size={18} strokeWidth={1.6} />}
              />
            </div>
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
              lookAt={place?.document === item.document && place.sheet === position ? place.points : null}
              draft={draft}
              position={position}
              tool={tool}
              layersOn={layers.length > 0 ? layers.map((l) => l.isOn) : null}
              onLayers={setLayers}
              onDrawn={(s) => {
                setDrawn(s);
                setTool("look");
              }}
              overlay={(place) => (
                <>
                  <Overlay notes={shown} place={place} picked={picked} onPick={(n) => setPicked(n.id)} draft={draft} />
                  {drawn && (
                    <NoteComposer
                      p={p}
                      draft={item.draft}
                      sheet={position}
                      shape={drawn}
                      place={place}
                      canRequest={p.may.request}
                      onDone={() => setDrawn(null)}
                    />
                  )}
                </>
              )}
            />
          </div>
          <RoundLine p={p} item={item} draft={draft} onDraft={setDraftOf} />
        </div>
        <aside aria-label="Review" className="flex w-[330px] shrink-0 flex-col border-l border-rule bg-raised">
          <div className="max-h-[56%] shrink-0 overflow-y-auto border-b border-rule p-3.5">
            {step && (
              <>
                <h2 className="label">
                  {step.name} asks you, as {step.seats.find((s) => s.key === mine?.seat)?.role}
                </h2>
                <div className="mt-0.5 mb-3">
                  <Formatted text={step.instruction} />
                </div>
              </>
            )}
            {mine && mine.for !== me.id && (
              <p className="mb-2 border-l-[3px] border-ochre pl-2.5">
                You sign for {people.get(mine.for)?.name}, who is away. The ledger says so.
              </p>
            )}
            {p.coveringNote && (
              <div className="mb-3">
                {step && <h3 className="label">{p.originatorName.split(" ")[0]} writes</h3>}
                <Clamped>{p.coveringNote}</Clamped>
              </div>
            )}
            {p.splitFrom && (
              <p className="mb-2 text-soft">
                Came back item by item;{" "}
                <Link className="underline" to={`/packages/${p.splitFrom}`}>
                  the others went on
                </Link>
                .
              </p>
            )}
            <IntakeAnswers p={p} />
            <Strip state={stripOf(p)} me={me.id} people={people} />
          </div>
          <NotesPanel p={p} notes={notes} picked={picked} onPick={goTo} />
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
          {p.isHeld && <NotedBar p={p} canAnswer={p.may.answerNoted} />}
          {p.standing === "released" && (
            <p className="border-t border-rule p-4">
              <b className="font-semibold">Released.</b> Every signature is in; exactly these bytes are locked.
            </p>
          )}
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

function BarPopover({ icon, words, children }: { icon: ReactNode; words: string; children: ReactNode }) {
  return (
    <Popover.Root>
      <Popover.Trigger className="inline-flex min-h-8 items-center gap-2 rounded-[5px] border border-[#c9c4b5] bg-raised px-3 font-medium whitespace-nowrap hover:bg-white">
        {icon} {words}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-50 max-h-[70vh] w-64 overflow-y-auto rounded-md border border-rule bg-raised p-3 shadow-lg"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function ToolButton({
  words,
  shortcut,
  icon,
  active,
  onClick,
}: {
  words: string;
  shortcut: string;
  icon: ReactNode;
  active?: boolean;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      aria-label={words}
      aria-pressed={active}
      title={`${words} (${shortcut})`}
      className={`flex h-[42px] w-[34px] flex-col items-center justify-center rounded-[5px] ${active ? "bg-ink text-raised" : "bg-ground/80 hover:bg-raised"}`}
      onClick={onClick}
    >
      {icon}
      <span className="font-mono text-[9px] leading-3">{shortcut}</span>
    </button>
  );
}
