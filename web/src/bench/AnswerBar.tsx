import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import { useKept } from "../kept/useKept";
import { planOf, type DocumentRow, type NoteRow, type PackageItem, type PackageView } from "../api/types";
import { UploadForm } from "../upload/UploadForm";
import { ChangeOrderField } from "../slip/ChangeOrderField";
import { IntakeForm } from "../slip/IntakeForm";
import { Button, Fault, Tick } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { timeLeft } from "../ui/time";
import { useSettled } from "../ui/useSettled";
import { nothingSaid, WhoHears } from "../slip/WhoHears";
import { usePeople } from "../ui/people";

/** What is written for the next round, kept until it is sent. */
type Written = {
  note: string;
  /** Documents that are left out. */
  left: readonly string[];
  taken: readonly DocumentRow[];
  inform: readonly string[];
  /** The intake form as corrected; null as long as it stays as it is. */
  answers: Readonly<Record<string, string>> | null;
  /** Likewise the number of the change order. */
  changeOrder: string | null;
};
const nothing: Written = { note: "", left: [], taken: [], inform: [], answers: null, changeOrder: null };

/** For the originator of a returned package: next drafts, the requests still to answer, sending the next round. */
export function AnswerBar({ p, onGo }: { p: PackageView; onGo: (n: NoteRow) => void }) {
  const client = useQueryClient();
  const people = usePeople();
  const written = useKept<Written>(`round ${p.round + 1} of ${p.id}`, nothing);
  const { note, left: leftOut, taken, inform, answers, changeOrder } = { ...nothing, ...written.value };
  const set = (patch: Partial<Written>) => written.set((was) => ({ ...was, ...patch }));
  const [say, setSay] = useState(nothingSaid);
  const form = planOf(p.slip).form ?? [];
  const left = p.answerDue && p.answerLeft ? timeLeft(p.answerLeft, p.answerDue) : null;
  const kept = p.items.filter((i) => !leftOut.includes(i.document));
  // What is asked of a document that is left out stays with it.
  const asked = p.notes.filter(
    (n) =>
      n.kind === "request" &&
      n.standing !== "closed" &&
      [n.document, ...n.marks.map((m) => m.document)].some((d) => kept.some((i) => i.document === d)),
  );
  const unanswered = asked.filter((n) => n.standing === "open");
  const total = asked.length;
  const sending = useAct(async (key) => {
    await api.post(`/packages/${p.id}/rounds`, {
      coveringNote: note,
      key,
      documents: [...kept.map((i) => i.document), ...taken.map((d) => d.id)],
      answers,
      changeOrder,
      inform,
      say,
    });
    written.discard();
    await client.invalidateQueries();
  });
  return (
    <div className="max-h-[55%] shrink-0 overflow-y-auto border-t border-rule p-3.5">
      <h2 className="label mb-1 flex justify-between">
        Your answer
        {left && <span className={left.late ? "text-rust" : "text-ink"}>{left.words}</span>}
      </h2>
      <p className="mb-2">
        {unanswered.length === 0 ? (
          total === 0 ? (
            "Nothing is asked for that waits for an answer."
          ) : total === 1 ? (
            "The request is answered."
          ) : (
            `All ${total} requests are answered.`
          )
        ) : (
          <>
            {total === 1 ? "One request" : `${unanswered.length} of ${total} requests`} to answer.{" "}
            <button type="button" className="font-medium text-spruce underline" onClick={() => onGo(unanswered[0]!)}>
              Go to request {unanswered[0]!.number}
            </button>
          </>
        )}
      </p>
      {p.items.map((i) => (
        <NextDraft
          key={i.document}
          p={p}
          item={i}
          isLeft={leftOut.includes(i.document)}
          onLeave={
            p.items.length + taken.length > 1 || leftOut.includes(i.document)
              ? () =>
                  set({
                    left: leftOut.includes(i.document)
                      ? leftOut.filter((d) => d !== i.document)
                      : [...leftOut, i.document],
                  })
              : null
          }
        />
      ))}
      {taken.map((d) => (
        <div key={d.id} className="flex items-center gap-2 border-b border-dotted border-rule py-1.5">
          <span className="font-mono text-sm">{d.number}</span>
          <span className="min-w-0 flex-1 truncate text-soft">taken in, {d.title}</span>
          <Button look="quiet" onClick={() => set({ taken: taken.filter((x) => x.id !== d.id) })}>
            Leave out
          </Button>
        </div>
      ))}
      <details className="mt-2">
        <summary className="cursor-pointer text-soft">
          Take in others, correct the {form.length > 0 ? "form" : "change order"}, inform more people
        </summary>
        <TakeIn
          not={[...p.items.map((i) => i.document), ...taken.map((d) => d.id)]}
          onTake={(d) => set({ taken: [...taken, d] })}
        />
        <div className="mt-2">
          <ChangeOrderField
            value={changeOrder ?? p.slip.facts?.changeOrder ?? ""}
            onChange={(number) => set({ changeOrder: number })}
          />
        </div>
        {form.length > 0 && (
          <div className="mt-2">
            <IntakeForm
              form={form}
              answers={answers ?? p.slip.facts?.answers ?? {}}
              documents={[]}
              onChange={(a) => set({ answers: a })}
            />
          </div>
        )}
        <h3 className="label mt-2">Inform more people</h3>
        <div className="mt-1 max-h-32 overflow-y-auto">
          {[...people.values()]
            .filter((x) => x.id !== p.originator && !p.informed.includes(x.id))
            .map((x) => (
              <Tick
                key={x.id}
                words={x.name}
                on={inform.includes(x.id)}
                set={(on) => set({ inform: on ? [...inform, x.id] : inform.filter((i) => i !== x.id) })}
              />
            ))}
        </div>
      </details>
      <textarea
        className="field mt-2"
        rows={2}
        aria-label={`Covering note for round ${p.round + 1}`}
        placeholder={`Covering note for round ${p.round + 1}`}
        maxLength={4000}
        readOnly={sending.isBusy}
        value={note}
        onChange={(e) => set({ note: e.target.value })}
      />
      {unanswered.length === 0 && (
        <div className="mt-2">
          <WhoHears
            about={[p.id, kept.map((i) => i.document), taken.map((d) => d.id), answers, inform]}
            ask={() =>
              api.post(`/packages/${p.id}/told`, {
                round: {
                  coveringNote: "",
                  documents: [...kept.map((i) => i.document), ...taken.map((d) => d.id)],
                  answers,
                  inform: [...inform],
                },
              })
            }
            say={say}
            setSay={setSay}
          />
        </div>
      )}
      <Fault>{sending.fault}</Fault>
      <Button
        look="main"
        className="mt-2 w-full"
        disabled={sending.isBusy || unanswered.length > 0}
        onClick={() => void sending.run()}
      >
        {sending.isBusy ? "Sending …" : `Send round ${p.round + 1}`}
      </Button>
    </div>
  );
}

/** Documents in work to take into the next round; they get their own first signatures. */
function TakeIn({ not, onTake }: { not: readonly string[]; onTake: (d: DocumentRow) => void }) {
  const [words, setWords] = useState("");
  const asked = useSettled(words.trim());
  const { data } = useQuery({
    queryKey: ["documents", "to take in", asked],
    queryFn: () => api.get("/documents", { standing: "in work", search: asked }),
    enabled: asked !== "",
  });
  const found = words.trim() === "" ? [] : (data?.rows ?? []).filter((d) => !not.includes(d.id)).slice(0, 5);
  return (
    <div className="mt-2">
      <input
        type="search"
        className="field"
        aria-label="Take in another document"
        placeholder="Take in another: number or title"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      {words.trim() !== "" && asked === words.trim() && data && found.length === 0 && (
        <p className="text-soft">No other document in work is called so.</p>
      )}
      {found.map((d) => (
        <button
          key={d.id}
          type="button"
          className="flex w-full gap-2 border-b border-dotted border-rule py-1 text-left hover:bg-picked"
          onClick={() => {
            onTake(d);
            setWords("");
          }}
        >
          <span className="font-mono text-sm">{d.number}</span>
          <span className="truncate text-soft">{d.title}</span>
        </button>
      ))}
    </div>
  );
}

function NextDraft({
  p,
  item,
  isLeft,
  onLeave,
}: {
  p: PackageView;
  item: PackageItem;
  isLeft: boolean;
  /** Leaves it out of the next round, or takes it in again; null when it is the only one. */
  onLeave: (() => void) | null;
}) {
  const people = usePeople();
  const [adding, setAdding] = useState(false);
  const { data } = useQuery({
    queryKey: ["document", item.document],
    queryFn: () => api.get(`/documents/${item.document}`),
  });
  const latest = data?.document;
  const isNew = latest !== undefined && latest.draft !== item.draft;
  const asked = p.notes.filter(
    (n) =>
      n.kind === "request" &&
      n.standing !== "closed" &&
      (n.document === item.document || n.marks.some((m) => m.document === item.document)),
  );
  const staysAsItIs = asked.length > 0 && asked.every((n) => n.answer === "cannot" || n.answer === "alreadySo");
  const fall = item.wouldFall.map((id) => people.get(id)?.name ?? "somebody");
  return (
    <div className="flex items-center gap-2 border-b border-dotted border-rule py-1.5">
      <span className="font-mono text-sm">{item.number}</span>
      <span className="min-w-0 flex-1 truncate text-soft">
        {isLeft
          ? "left out of the next round"
          : isNew
            ? `${latest.revision}.${latest.ordinal} ready`
            : item.standing !== "returned"
              ? "not returned"
              : staysAsItIs
                ? "goes again as it is"
                : "needs its next draft"}
      </span>
      {onLeave && (
        <Button look="quiet" aria-label={`${isLeft ? "Take in" : "Leave out"} ${item.number}`} onClick={onLeave}>
          {isLeft ? "Take in" : "Leave out"}
        </Button>
      )}
      <Button
        look={item.standing === "returned" ? "plain" : "quiet"}
        aria-label={`${isNew ? "Replace" : "Upload"} ${item.number}`}
        onClick={() => setAdding(true)}
      >
        {isNew ? "Replace" : "Upload"}
      </Button>
      <SideSheet title={`Next draft of ${item.number}`} open={adding} onClose={() => setAdding(false)}>
        {fall.length > 0 && (
          <p className="mb-3 border-l-[3px] border-ochre pl-2.5">
            Nobody returned this item. With another draft {fall.length === 1 ? "the signature" : "the signatures"} of{" "}
            {fall.join(", ")} on it {fall.length === 1 ? "falls" : "fall"}.
          </p>
        )}
        <UploadForm document={{ id: item.document, number: item.number }} onDone={() => setAdding(false)} />
      </SideSheet>
    </div>
  );
}
