import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useReducer, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { api } from "../api/client";
import { newKey } from "../api/key";
import {
  isScene,
  isSheet,
  isTable,
  type NamedDocument,
  type NoteMark,
  type NoteRow,
  type PackageView,
  type Point,
  type Shape,
} from "../api/types";
import { useKept } from "../kept/useKept";
import { useVisit } from "../kept/useRecent";
import { everything, sifted, stepFrom } from "../notes/sifting";
import { begin, tryBegin, useBegun, wordsLeft, type Begun } from "../notes/begun";
import { useMe } from "../session/me";
import { announce } from "../ui/announce";
import { cornersOf, useFind, type Hit } from "../viewer/find/useFind";
import { withTied } from "../viewer/markup/ties";
import { LETTERS } from "../viewer/pen";
import { factorAt, type SecondUnit } from "../viewer/measure";
import { useNamed } from "../viewer/named/useNamed";
import { useScaling } from "../viewer/scale/useScaling";
import type { SheetHandle } from "../viewer/sheet";
import { sheetsQuery } from "../viewer/sheetsQuery";
import { useWarmPages } from "../viewer/surface/useWarmPages";
import { Together } from "../viewer/camera/together";
import { useFileMarks } from "./FileMarks";
import { useSnapping } from "../viewer/snap/useSnapping";
import { dayIn, dayWords } from "../ui/time";
import { cloudAbout } from "../viewer/shapes/cloud";
import { countedOf } from "../viewer/tools/words";
import { OnViewNow } from "./onViewNow";
import { asksForNote, drawnNames, isExact, isLasting, onViews, shapeWords } from "./drawing";
import { arrangingOf } from "./arranging";
import { carriedTo, looksOf, lyingOf } from "./lying";
import { CARRIED, FROM_FILE } from "./OverlaysMenu";
import { after, alone, opened } from "./state";
import { useBenchKeys } from "./useBenchKeys";
import { useHand } from "./useHand";
import { usePasting } from "./usePasting";
import { useOpened } from "./useOpened";
import { usePresence } from "./usePresence";
import { plainMark, useWriting } from "./useWriting";
import { useMarking } from "./useMarking";
import { useOrigin } from "./useOrigin";
import { besideOf, likeliestBeside, useShown } from "./useShown";
import { useVerdicts } from "./VerdictBar";
import { verdictKeys } from "./verdictKeys";
import { toJudge, undecided } from "./verdicts";

/** Everything that lies on the bench for a package, and what can be done with it; the page only lays it out. */
export function useBench(p: PackageView) {
  const me = useMe();
  useVisit(`/packages/${p.id}`, p.title, p.number);
  const [params] = useSearchParams();
  const asked = p.notes.find((n) => n.number === Number(params.get("note")));
  // From a list: the first markup on it, or on the document named.
  const marked = params.has("marked")
    ? p.items.find((i) => i.marked && (!params.get("marked") || i.document === params.get("marked")))
    : undefined;
  const shown = useShown(p, {
    document: asked?.document ?? marked?.document,
    leaf: asked?.marks[0]?.place.leaf ?? marked?.marked?.place.leaf,
  });
  const { index, setIndex, item, draft, setDraftOf, position, setPosition, beside, setBeside } = shown;
  const [state, act] = useReducer(after, { note: asked, marked }, opened);
  const [together, setTogether] = useState<Together | null>(null);
  const [layers, setLayers] = useState<{ name: string; isOn: boolean }[]>([]);
  const [isSigning, setSigning] = useState(false);
  /** Whether a point of the tool in hand is being typed. */
  const [isTypingPoint, setTypingPoint] = useState(false);
  const sheet = useRef<SheetHandle>(null);
  const { data: sheets } = useQuery(sheetsQuery(draft));
  // A link may name a sheet that a later draft does not have.
  const leaf = sheets?.find((s) => s.position === position) ?? sheets?.[0];
  const table = isTable(leaf) ? leaf : null;
  const scene = isScene(leaf) ? leaf : null;
  const isDrawnOn = isSheet(leaf);
  useWarmPages(p.items, draft, leaf);
  const fileMarks = useFileMarks(draft, leaf);
  const find = useFind({ draft, leaf: position, package: p.id });
  // One's own seat first, then that of somebody away whose deputy one is.
  const mine = p.may.seats[0];
  const verdicts = useVerdicts(p, mine ? `${mine.seat} for ${mine.for}` : "");
  const notes = useMemo(
    () => p.notes.filter((n) => n.terms.onPackage || n.places.some((at) => at.draft === draft)),
    [p, draft],
  );
  const [sift, setSift] = useState(everything);
  const listed = useMemo(() => sifted(notes, sift, draft, me.id), [notes, sift, draft, me.id]);
  const { marking, overlays, mayTake, canDraw, mayShare } = useMarking(draft, p.may.write && draft === item.draft);
  const here = usePresence(p.id, draft, position);
  const begun = useBegun(item.draft);
  // The next draft may have come while somebody wrote on the last: their words go on with them.
  const last = item.earlierDrafts[item.earlierDrafts.length - 1]?.draft;
  const left = useBegun(last ?? "none");
  const drawn = overlays.length > 0 ? { draft, count: marking.store.all().length } : null;
  const own = overlays.filter((o) => o.owner === me.id);
  // Where everybody looks for themselves, the first that others do not see; the server makes one where there is none.
  const fit = mayShare ? own : own.filter((o) => o.isPrivate);
  const drawnOn = fit.find((o) => o.id === state.drawnOn)?.id ?? fit[0]?.id ?? null;
  const carried = useMemo(() => carriedTo(notes, item.document, draft), [notes, draft, item.document]);
  const byId = useMemo(() => new Map(p.notes.map((n) => [n.id, n])), [p]);
  const placing = byId.get(state.placing ?? "") ?? null;
  const drawnSoFar = marking.store.all();
  const marks = useMemo(
    () => drawnSoFar.filter((m) => m.leaf === position && !state.hidden.has(m.overlay ?? drawnOn ?? "")),
    [drawnSoFar, position, state.hidden, drawnOn],
  );
  const lookOf = useMemo(() => looksOf(overlays, drawnOn), [overlays, drawnOn]);
  const lying = useMemo(
    () => lyingOf(position, marks, state.hidden.has(CARRIED) ? [] : carried, byId, lookOf),
    [position, marks, state.hidden, carried, byId, lookOf],
  );
  const every = [
    ...overlays.map((o) => o.id),
    ...(carried.length > 0 ? [CARRIED] : []),
    ...(fileMarks.length > 0 ? [FROM_FILE] : []),
  ];
  const origin = useOrigin(draft, position);
  const second = useKept<SecondUnit | null>("second unit", null, "habit");
  const scaling = useScaling(draft, position);
  const named = useNamed(draft, leaf?.position);

  useOpened(draft, sheets !== undefined, leaf?.prepared);
  // A verdict is on what was looked at: which sheets have been there to be looked at since the page was opened.
  const [looked, setLooked] = useState<ReadonlySet<string>>(new Set());
  const onShown = useCallback(
    () => setLooked((before) => (before.has(draft) ? before : new Set([...before, draft]))),
    [draft],
  );
  const isLooked = looked.has(item.draft) || (draft === item.draft && sheets !== undefined && (!!table || !leaf));

  const pickMark = (id: string | null, ...more: readonly string[]) => {
    const [, ...others] = id === null ? [] : withTied([id, ...more], lying);
    act({ does: "pick mark", mark: id, others, note: lying.find((m) => m.id === id)?.note?.id ?? null });
  };
  // What lies there no more, or was hidden since, is picked no more.
  const others = state.others.filter((id) => lying.some((m) => m.id === id));
  const picked = [...(state.pickedMark === null ? [] : [state.pickedMark]), ...others];
  const ownHere = marks.filter((m) => m.mayChange).map((m) => m.id);
  const chooseTool = (tool: typeof state.tool) => {
    scaling.done();
    act({ does: "take tool", tool });
  };
  const drawnHere = !mayTake ? [] : isDrawnOn ? drawnNames : scene ? onViews : [];
  const onView = new OnViewNow(sheet, scene !== null, (id) => marking.store.find(id));
  const onBegin = (isBegun: boolean, otherwise: string) => {
    act({ does: "fold", isFolded: false });
    if (!isBegun) act({ does: "say", words: otherwise });
    return isBegun;
  };
  /** Begins a note. One that has words already is not put aside for it: the page says so, and gives false. */
  const beginNote = (mark: Begun["mark"], body = ""): boolean =>
    onBegin(tryBegin(begun, mark, body), "You have begun a note already. Add or discard it first.");
  const onDrawn = (made: Shape) => {
    const shape = onView.kept(made);
    const keepsTool = isLasting(shape.shape);
    act({ does: "drew", overlay: drawnOn, keepsTool });
    const mark = { id: newKey(), overlay: drawnOn, leaf: position, shape };
    if (!placing && asksForNote(shape) && beginNote(mark)) return;
    marking.draw({ ...mark, note: placing?.id ?? null, zone: null, mayChange: true, tie: null, rank: 0 });
    if (placing) act({ does: "placed" });
    else if (!keepsTool) act({ does: "pick mark", mark: mark.id, note: null });
  };
  const onPasted = (shapes: readonly Shape[]) => {
    act({ does: "drew", overlay: drawnOn });
    const pasted = shapes.map((shape) => plainMark(position, drawnOn, shape));
    marking.drawAll(pasted);
    pickMark(pasted[0]!.id, ...pasted.slice(1).map((m) => m.id));
  };
  const writing = useWriting(draft, last, marking, onDrawn, `${me.name}, ${dayWords(dayIn(new Date()))}`, (isBegun) =>
    onBegin(isBegun, "You have begun other words already. Write or discard them first."),
  );
  /** A note to a markup of one's own that stands for itself: null where none is picked. */
  const noteTo = () => {
    const mark =
      canDraw && state.tool === "look" && others.length === 0 ? marking.store.find(state.pickedMark ?? "") : null;
    if (!mark?.mayChange || mark.note !== null || begun.value) return null;
    return () => begun.set(begin({ id: mark.id, overlay: mark.overlay, leaf: mark.leaf, shape: mark.shape }));
  };
  usePasting({
    draft,
    sheet,
    canPaste: canDraw && isSheet(leaf),
    copied: writing.paste(onPasted),
    onDrawn,
    onFault: (words) => act({ does: "say", words }),
  });
  const layersOn = layers.length > 0 ? layers.map((l) => l.isOn) : null;
  const catching = useSnapping(draft, isSheet(leaf) ? leaf : undefined, isExact(state.tool), layersOn);
  const handled = useMemo(
    () => lying.map((m) => ({ ...m, overlay: null, leaf: position, zone: null, rank: 0, note: m.note?.id ?? null })),
    [lying, position],
  );
  const { hand, inHand, reach } = useHand({
    catching,
    tool: canDraw ? state.tool : "look",
    marking,
    marksNow: () => onView.marks(handled),
    picked: state.pickedMark,
    others,
    onPick: ([first = null, ...more]) => {
      pickMark(first, ...more);
      if (more.length > 0) announce(`${more.length + 1} markups picked`);
    },
    onDrawn,
    onReshaped: (changes, words) => marking.reshapeAll(onView.changed(changes), words),
    onWrites: (shape) => {
      act({ does: "drew", overlay: drawnOn });
      writing.begin(position, drawnOn, onView.kept(shape));
    },
    onEncloses: (at, areaOf) => {
      const asked = api.post(`/drafts/${draft}/leaves/${position}/enclosed`, { at, layersOn });
      act({ does: "say", words: "Looking for what encloses the point …" });
      const found = asked.then(({ points }) => onDrawn(areaOf(points)));
      found.then(
        () => act({ does: "say", words: null }),
        (fault: Error) => act({ does: "say", words: fault.message }),
      );
    },
    factorAt: (at) => factorAt(leaf, at),
    letters: LETTERS[lookOf(drawnOn).letters],
    origin: origin.value,
  });
  const open = useCallback(
    (i: number) => {
      setIndex(i);
      setDraftOf(null);
      setPosition(0);
      act({ does: "open item" });
    },
    [setIndex, setDraftOf, setPosition],
  );
  /** Goes to a place of a note: the one named, or its first on the draft in view, or its first. */
  const goTo = useCallback(
    (note: NoteRow, named?: NoteMark) => {
      const mark = named ?? note.marks.find((m) => m.draft === draft) ?? note.marks[0] ?? null;
      const at = p.items.findIndex((i) => i.document === (mark ?? note).document);
      if (at >= 0 && at !== index) open(at);
      act({ does: "go to note", note, mark });
      if (!mark) return;
      // A place that the draft under review does not carry is looked at where it was drawn.
      const now = p.items[at];
      const isThere = now && (mark.draft === now.draft || note.places.some((x) => x.draft === now.draft));
      setDraftOf(isThere ? null : mark.draft);
      setPosition(mark.place.leaf);
    },
    [p, index, open, draft, setDraftOf, setPosition],
  );
  const goToFound = (hit: Hit) => {
    const at = p.items.findIndex((i) => i.draft === hit.draft);
    if (at >= 0 && at !== index) open(at);
    setPosition(hit.leaf);
    const { document } = p.items[at] ?? item;
    const scene = { draft: hit.draft, eye: null, spot: null, words: hit.line };
    act({ does: "look at", at: { document, leaf: hit.leaf, points: hit.covers.flatMap(cornersOf), scene } });
  };
  const lookAtPlace = (at: number, points: readonly Point[]) => {
    setPosition(at);
    act({ does: "look at", at: { document: item.document, leaf: at, points } });
  };
  /** Begins a note on something that was found, with a cloud round it and words to go on with. */
  const noteOn = (at: number, points: readonly Point[], body: string) => {
    if (!beginNote({ id: newKey(), overlay: drawnOn, leaf: at, shape: cloudAbout(points) }, body)) return;
    lookAtPlace(at, points);
    act({ does: "drew", overlay: drawnOn });
  };
  /** The same on words that were found, where they stand on a sheet of the draft in view. */
  const noteOnFound = (hit: Hit) => {
    const there = sheets?.find((s) => s.position === hit.leaf);
    if (hit.draft === draft && isSheet(there))
      noteOn(hit.leaf, hit.covers.flatMap(cornersOf), `“${hit.line.trim()}”: `);
  };
  const placeNote = useCallback((note: string) => act({ does: "place note", note }), []);
  const showBeside = () => setBeside(beside ? null : likeliestBeside(p, index, draft, position, sheets?.length ?? 0));
  const toSign = mine ? toJudge(p, mine.seat, mine.for) : [];

  // What one drew on another overlay is undone there.
  const undo = canDraw && marking.history.canUndo(drawnOn) ? () => marking.undo(drawnOn) : null;
  const redo = canDraw && marking.history.canRedo(drawnOn) ? () => marking.redo(drawnOn) : null;
  /** The next of one's own on the sheet, for whoever has no pointer. */
  const pickNext = () => {
    if (state.tool !== "look") chooseTool("look");
    const at = (ownHere.indexOf(state.pickedMark ?? "") + 1) % ownHere.length;
    pickMark(ownHere[at]!);
    announce(`${shapeWords(marks.find((m) => m.id === ownHere[at])!.shape.shape)}, ${at + 1} of ${ownHere.length}`);
  };
  const arranging = arrangingOf(
    marking,
    canDraw && isDrawnOn ? picked.filter((id) => ownHere.includes(id)) : [],
    (ids) => pickMark(ids[0] ?? null, ...ids.slice(1)),
  );
  const erase = ownHere.some((id) => picked.includes(id)) ? () => marking.erase(...picked) : null;
  useBenchKeys({
    arranging,
    undo,
    redo,
    erase,
    ...verdictKeys(toSign.includes(item) ? item : null, isLooked, verdicts.set, (words) => act({ does: "say", words })),
    sign: toSign.length > 0 && undecided(toSign, verdicts.value).length === 0 ? () => setSigning(true) : null,
    next: () => open((index + 1) % p.items.length),
    before: () => open((index + p.items.length - 1) % p.items.length),
    tool: chooseTool,
    drawn: drawnHere,
    origin: isSheet(leaf)
      ? () => act({ does: "say", words: origin.set(lying.find((m) => m.id === state.pickedMark)) })
      : null,
    typePoint: canDraw && isSheet(leaf) && state.tool !== "look" ? () => setTypingPoint(true) : null,
    noteTo: noteTo(),
    writeAnew: canDraw ? writing.anew(state.pickedMark) : null,
    copy: !isDrawnOn ? null : writing.copy(picked),
    note: listed.length === 0 ? null : (by) => goTo(stepFrom(listed, state.pickedNote, by)!),
    pickNext: canDraw && isDrawnOn && ownHere.length > 0 ? pickNext : null,
    pickAll: canDraw && isDrawnOn && ownHere.length > 0 ? () => pickMark(ownHere[0]!, ...ownHere.slice(1)) : null,
    plain: () => act({ does: "hide", hidden: alone(every, [], state.hidden) }),
    only: drawnOn ? () => act({ does: "hide", hidden: alone(every, [drawnOn], state.hidden) }) : null,
    fit: () => sheet.current?.fit(),
    beside: showBeside,
    leave: () => {
      scaling.done();
      act({ does: "leave" });
    },
  });

  const lookingAt = state.lookAt?.document === item.document && state.lookAt.leaf === position ? state.lookAt : null;
  const leftWords = wordsLeft(left, begun, p.may.write, () => act({ does: "fold", isFolded: false }));
  return {
    p,
    leftWords,
    ...shown,
    ...{
      drawn,
      state,
      act,
      together,
      setTogether,
      layers,
      setLayers,
      sheet,
      sheets,
      leaf,
      table,
      scene,
      fileMarks,
      find,
    },
    ...{
      mine,
      verdicts,
      notes,
      listed,
      sift,
      setSift,
      marking,
      mayShare,
      overlays,
      ...{ begun, beginNote },
      canDraw,
      ...{ undo, redo, arranging },
      drawnOn,
      ...{ carried, placing, lying },
      scaling,
      named,
    },
    ...{
      hand,
      inHand,
      others,
      pickMark,
      chooseTool,
      onDrawn,
      ...{ open, goTo, goToFound, lookAtPlace },
      ...{ isTypingPoint: isTypingPoint && hand.isDrawing, setTypingPoint, reach },
      ...{ here, origin: origin.value, second },
      noteOn,
      noteOnFound,
      placeNote,
      showBeside,
      onShown,
    },
    ...{ isSigning, setSigning, writing, noteTo: noteTo(), erase },
    counted: state.tool === "count" ? countedOf(marks).sum : null,
    setTogetherOn: (on: boolean) => setTogether(on ? new Together() : null),
    follow: (to: Pick<NamedDocument, "name">) => setBeside(besideOf(p, to)),
    lookAtScene: lookingAt,
    drawnHere,
    lookAtPoints: lookingAt?.points ?? null,
  };
}

export type BenchNow = ReturnType<typeof useBench>;
