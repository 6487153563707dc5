import { useQueryClient } from "@tanstack/react-query";
import { memo, useCallback, useEffect, useRef, useState, type ReactNode } from "react";
import { Link } from "react-router";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { newKey } from "../api/key";
import { useAct } from "../api/useAct";
import { useKept } from "../kept/useKept";
import type { DraftOverlay, NoteAct, NoteMark, NoteRow, PackageView } from "../api/types";
import { tell } from "../ui/announce";
import { Formatted } from "../ui/Formatted";
import { Button, Fault } from "../ui/kit";
import { usePeople } from "../ui/people";
import { when } from "../ui/time";
import { isStillIn } from "../ui/unlessGoneOn";
import { actsTold } from "./acts";
import { kindColour, kindFill } from "./kinds";
import { Places } from "./Places";
import { namedIn } from "./suggesting";
import { Several } from "./Several";
import { TermsFields } from "./TermsFields";
import { TermsLine } from "./TermsLine";
import { asTyped, termsFor, type Terms } from "./terms";
import { usePartners, usePhrases } from "./usePhrases";
import { WordsField } from "./WordsField";
import { SiftBar } from "./SiftBar";
import { everything, type Sift } from "./sifting";

const answers = {
  done: "Done",
  doneDifferently: "Done differently",
  cannot: "Cannot, because",
  alreadySo: "Already so, see",
} as const;
type Answer = keyof typeof answers;
/** What words are being written for. */
type Doing = Answer | "reopen" | "close" | "withdraw" | "reply" | "edit";
const hints: Readonly<Record<Doing | "question", string>> = {
  question: "Your answer",
  done: "What was done (may be left empty)",
  doneDifferently: "What was done instead",
  cannot: "Why it cannot be done",
  alreadySo: "Where it is so already",
  reopen: "What is still missing",
  close: "What you found, looking again",
  withdraw: "Why you withdraw it in their stead",
  reply: "Your reply; its standing stays as it is",
  edit: "What the note is about; what it said before stays to be read",
};
const verbs: Readonly<Partial<Record<Doing, string>>> = {
  reopen: "Reopen",
  close: "Close",
  withdraw: "Withdraw",
  reply: "Reply",
  edit: "Change",
};
const labels: Readonly<Partial<Record<Doing, string>>> = {
  reopen: "Why you reopen",
  close: "What you found on",
  withdraw: "Why you withdraw",
  reply: "Reply to",
  edit: "Words of",
};
/** Longest wording that is kept, in characters. */
const LONGEST_PHRASE = 500;

type Props = {
  p: PackageView;
  draft: string;
  notes: readonly NoteRow[];
  /** Those that are listed, as was asked for. */
  listed: readonly NoteRow[];
  sift: Sift;
  setSift: (sift: Sift) => void;
  /** How a note is begun where one looks. */
  how: string;
  picked: string | null;
  /** Goes to a place of the note: the one named, or the first. */
  onPick: (n: NoteRow, mark?: NoteMark) => void;
  /** Gives a note another place by what is drawn next; null when nothing can be drawn. */
  onPlace: ((note: string) => void) | null;
  overlays: readonly DraftOverlay[];
  /** Puts places of one's own on another overlay of one's own. */
  onMove: (marks: readonly string[], overlay: string) => void;
  /** Writes a note without a place. */
  composer: ReactNode;
  /** What else stands under the notes. */
  below: ReactNode;
};

/** From how many notes on they can be searched and put in order. */
const MANY = 6;

/** The notes of the draft in view as one list; a click goes to the place on the sheet. */
export function NotesPanel({ p, draft, notes, listed, sift, setSift, how, picked, onPick, onPlace, ...more }: Props) {
  const { composer, below, overlays, onMove } = more;
  const me = useMe();
  /** Those that are ticked, to be dealt with at once; null while nobody ticks. */
  const [several, setSeveral] = useState<ReadonlySet<string> | null>(null);
  const tick = useCallback(
    (id: string) => setSeveral((was) => was && new Set(was.has(id) ? [...was].filter((i) => i !== id) : [...was, id])),
    [],
  );
  const open = notes.filter((n) => n.standing !== "closed" && n.kind !== "remark").length;
  return (
    <section
      aria-label="Notes on this draft"
      className={`flex min-h-[30%] flex-1 flex-col ${notes.length >= MANY ? "[@media(min-height:640px)]:min-h-[50%]" : ""}`}
    >
      <h2 className="label flex justify-between px-3.5 pt-3 pb-1">
        Notes on this draft
        <span className="flex items-baseline gap-2 font-sans text-sm tracking-normal normal-case">
          {notes.length > 0 && <span className="text-ink">{open} open</span>}
          {notes.length > 1 && p.may.write && (
            <button
              type="button"
              className="min-h-6 underline"
              aria-pressed={several !== null}
              onClick={() => setSeveral(several ? null : new Set())}
            >
              Several
            </button>
          )}
          {!me.isGuest && p.notes.length > 1 && (
            <Link
              to={`/notes?package=${p.id}&kind=all&standing=all`}
              className="min-h-6 underline"
              title="All notes of the package as a table"
            >
              Table
            </Link>
          )}
        </span>
      </h2>
      {(notes.length >= MANY || sift !== everything) && (
        <SiftBar
          sift={sift}
          onChange={setSift}
          overlays={overlays.filter((o) => notes.some((n) => n.marks.some((m) => m.overlay === o.id)))}
          rounds={[...new Set(notes.map((n) => n.round))].sort((a, b) => a - b)}
        />
      )}
      {several && (
        <Several
          key={draft}
          p={p}
          draft={draft}
          notes={listed.filter((n) => several.has(n.id))}
          count={listed.length}
          own={overlays.filter((o) => o.owner === me.id)}
          onAll={() => setSeveral(new Set(listed.map((n) => n.id)))}
          onMove={onMove}
          onDone={() => setSeveral(null)}
        />
      )}
      <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
        {listed.length < notes.length && (
          <p role="status" className="px-3.5 pb-2 text-soft">
            {listed.length === 0 ? "None of the notes is so." : `${listed.length} of ${notes.length} are listed.`}{" "}
            <button type="button" className="min-h-6 underline" onClick={() => setSift(everything)}>
              All
            </button>
          </p>
        )}
        {notes.length === 0 && (
          <p className="px-3.5 py-2 text-soft">{p.may.write ? `None yet. ${how}` : "No notes on this draft."}</p>
        )}
        {listed.map((n) => (
          <Note
            key={n.id}
            p={p}
            draft={draft}
            n={n}
            picked={n.id === picked}
            onPick={onPick}
            onPlace={onPlace}
            ticked={several ? several.has(n.id) : null}
            onTick={tick}
          />
        ))}
        {composer && <div className="px-3.5 py-2">{composer}</div>}
        {below}
      </div>
    </section>
  );
}

type NoteProps = Pick<Props, "p" | "draft" | "onPick" | "onPlace"> & {
  n: NoteRow;
  picked: boolean;
  /** Whether it is ticked; null while nobody ticks. */
  ticked: boolean | null;
  onTick: (id: string) => void;
};

/** One note with its thread; drawn anew only when it is another: a verdict or a tool changes none. */
const Note = memo(function Note({ p, draft, n, picked, onPick, onPlace, ticked, onTick }: NoteProps) {
  const me = useMe();
  const people = usePeople();
  const [partners, phrases] = [usePartners(p), usePhrases()];
  const client = useQueryClient();
  const row = useRef<HTMLElement>(null);
  const begun = useKept<{ doing: Doing; body: string; terms?: Terms } | null>(`act on note ${n.id}`, null);
  const doing = begun.value?.doing ?? null;
  const body = begun.value?.body ?? "";
  const setDoing = (doing: Doing | null) =>
    doing === "edit"
      ? begun.set({ doing, body: body === "" ? n.body : body, terms: asTyped(n.terms) })
      : doing
        ? begun.set({ doing, body })
        : begun.discard();
  useEffect(() => {
    if (picked) row.current?.scrollIntoView({ block: "nearest" });
  }, [picked]);
  const acting = useAct(async (key, what: NoteAct, words: string = "") => {
    await api.post(`/notes/${n.id}/acts`, {
      act: what,
      answer: what === "answer" && n.kind === "request" ? (doing as Answer) : null,
      body: words,
      key,
      mentions: namedIn(words, partners),
      terms: what === "edit" && begun.value?.terms ? termsFor(begun.value.terms, n.kind, !n.terms.onPackage) : null,
    });
    begun.discard();
    // Until the page has what came of it, its buttons do not press: a press that does nothing would be lost.
    await client.invalidateQueries({ queryKey: ["package", p.id] });
    if (isStillIn(row.current)) row.current?.querySelector<HTMLElement>("button")?.focus();
  });
  const keeping = useAct(async () => {
    await api.put(`/phrases/${newKey()}`, { words: n.body, isOffice: false });
    await client.invalidateQueries({ queryKey: ["phrases"] });
    tell("Kept with your wordings; it is offered when you type words of it.");
  });
  const busy = acting.isBusy;
  const act = (what: NoteAct, words?: string) => acting.run(what, words);
  const carried = n.round < p.round;
  const may = (act: NoteAct) => n.may.includes(act);
  const first = n.marks.find((m) => m.draft === draft) ?? n.marks[0];
  return (
    <article
      ref={row}
      data-testid={`note-${n.number}`}
      className={`item border-b border-rule px-3.5 py-2.5 ${picked ? "bg-marked" : ""} ${n.standing === "closed" ? "text-soft" : ""}`}
    >
      {ticked !== null && (
        <label className="flex items-center gap-2 pb-1 text-sm">
          <input type="checkbox" className="accent-spruce" checked={ticked} onChange={() => onTick(n.id)} />
          with the others
          <span className="sr-only">
            : {n.kind} {n.number}
          </span>
        </label>
      )}
      <button type="button" className="flex w-full gap-2 text-left" onClick={() => onPick(n)}>
        <span
          className={`h-5 min-w-6 rounded-[3px] text-center font-narrow text-xs leading-5 font-semibold text-on ${kindFill[n.kind]}`}
        >
          {n.number}
        </span>
        <span className="min-w-0 flex-1">
          <span className="flex gap-1.5">
            <b className={`font-semibold ${kindColour[n.kind]}`}>{n.kind[0]!.toUpperCase() + n.kind.slice(1)}</b>
            <span className="truncate text-soft">
              {n.author === me.id ? "you" : n.authorName.split(" ")[0]}
              {n.for && `, for ${people.get(n.for)?.name ?? "somebody away"}`} ·{" "}
              {n.round === 0 ? "from an earlier package" : carried ? `round ${n.round}` : when(n.at)}
            </span>
            <span className="ml-auto max-w-[45%] truncate font-mono text-sm text-soft" title={first?.zone ?? undefined}>
              {first?.zone}
            </span>
          </span>
          {n.kind === "question" && n.askedOf !== p.originator && (
            <span className="block text-soft">to {n.askedOf === me.id ? "you" : people.get(n.askedOf)?.name}</span>
          )}
        </span>
      </button>
      <div className="pl-8">
        <TermsLine terms={n.terms} presses={n.presses} />
        {/* The button above does the same by keyboard. */}
        <div className="cursor-pointer break-words" dir="auto" onClick={() => onPick(n)}>
          <Formatted text={n.body} draft={n.draft} />
        </div>
        <Places n={n} items={p.items} onPick={(m) => onPick(n, m)} />
        {actsTold(n).map((a, i) => (
          <p key={i} className="mt-1 text-soft">
            {a.name.split(" ")[0]} <b className="font-semibold text-ink">{a.told}</b>
            {a.body && (
              <span className="block text-ink">
                <Formatted text={a.body} draft={n.draft} />
              </span>
            )}
          </p>
        ))}
        {n.standing === "closed" && n.acts.length === 0 && <p className="mt-1">Closed</p>}
        <div className="mt-1.5 flex flex-wrap gap-2 empty:mt-0">
          {/* Questions and remarks need no closing. */}
          {may("close") && n.kind === "request" && !doing && <Button onClick={() => setDoing("close")}>Close</Button>}
          {may("reopen") && n.kind === "request" && !doing && (
            <Button onClick={() => setDoing("reopen")}>Reopen</Button>
          )}
          {onPlace && n.author === me.id && n.standing === "open" && !carried && (
            <Button onClick={() => onPlace(n.id)}>{n.marks.length > 0 ? "Another place" : "Show where"}</Button>
          )}
          {may("withdraw") && !carried && !doing && (
            <Button
              disabled={busy}
              onClick={() => (n.author === me.id || n.for === me.id ? void act("withdraw") : setDoing("withdraw"))}
            >
              Withdraw
            </Button>
          )}
          {may("leave") && !doing && carried && (
            <Button
              disabled={busy}
              title="Whoever coordinates the package may close it in your stead"
              onClick={() => void act("leave")}
            >
              Leave to others
            </Button>
          )}
          {may("answer") && !doing && n.kind === "request" && (
            <>
              {(Object.keys(answers) as Answer[]).map((a) => (
                <Button key={a} onClick={() => setDoing(a)}>
                  {answers[a]}
                </Button>
              ))}
            </>
          )}
          {may("answer") && !doing && n.kind === "question" && n.standing === "open" && (
            <Button onClick={() => setDoing("done")}>Answer</Button>
          )}
          {may("edit") && !doing && (
            <Button look="quiet" onClick={() => setDoing("edit")}>
              Edit
            </Button>
          )}
          {picked && !doing && p.may.write && n.body.length <= LONGEST_PHRASE && (
            <Button
              look="quiet"
              disabled={keeping.isBusy}
              title="Keeps these words among your wordings, to be offered while you type"
              onClick={() => void keeping.run()}
            >
              Keep as a wording
            </Button>
          )}
          {may("reply") && !doing && (
            <Button look="quiet" onClick={() => setDoing("reply")}>
              Reply
            </Button>
          )}
        </div>
        {doing && (
          <form
            className="mt-2"
            onSubmit={(e) => {
              e.preventDefault();
              void act(doing in labels ? (doing as NoteAct) : "answer", body);
            }}
          >
            <WordsField
              draft={n.draft}
              rows={2}
              isFirst
              label={`${labels[doing] ?? "Answer to"} ${n.kind} ${n.number}`}
              placeholder={hints[n.kind === "question" ? "question" : doing]}
              people={partners}
              phrases={phrases}
              value={body}
              isSending={busy}
              onChange={(body) => begun.set((was) => ({ ...was, doing, body }))}
            />
            {doing === "edit" && begun.value?.terms && (
              <TermsFields
                kind={n.kind}
                hasPlace
                terms={begun.value.terms}
                onChange={(terms) => begun.set({ doing, body, terms })}
              />
            )}
            <div className="mt-1 flex gap-2">
              <Button look="main" type="submit" disabled={busy}>
                {verbs[doing] ?? (n.kind === "question" ? "Answer" : answers[doing as Answer])}
              </Button>
              <Button look="quiet" onClick={() => setDoing(null)}>
                Discard
              </Button>
            </div>
          </form>
        )}
        <Fault>{acting.fault || keeping.fault}</Fault>
      </div>
    </article>
  );
});
