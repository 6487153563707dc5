import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import type { NoteRow, PackageItem, PackageView } from "../api/types";
import { UploadForm } from "../register/UploadForm";
import { Button, Fault, SideSheet } from "../ui/kit";
import { usePeople } from "../ui/people";

/** For the originator of a returned package: next drafts, the requests still to answer, sending the next round. */
export function AnswerBar({ p, onGo }: { p: PackageView; onGo: (n: NoteRow) => void }) {
  const client = useQueryClient();
  const [note, setNote] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const unanswered = p.notes.filter((n) => n.kind === "request" && n.standing === "open");
  const total = p.notes.filter((n) => n.kind === "request" && n.standing !== "closed").length;
  const send = async () => {
    setFault(null);
    try {
      await api.post(`/packages/${p.id}/rounds`, { coveringNote: note });
      await client.invalidateQueries();
    } catch (e) {
      setFault((e as Error).message);
    }
  };
  return (
    <div className="max-h-[55%] shrink-0 overflow-y-auto border-t border-rule p-3.5">
      <h2 className="label mb-1">Your answer</h2>
      <p className="mb-2">
        {unanswered.length === 0 ? (
          total === 1 ? (
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
        <NextDraft key={i.document} p={p} item={i} />
      ))}
      <textarea
        className="field mt-2"
        rows={2}
        aria-label="Note for the next round"
        placeholder="Note for the next round"
        value={note}
        onChange={(e) => setNote(e.target.value)}
      />
      <Fault>{fault}</Fault>
      <Button look="main" className="mt-2 w-full" disabled={unanswered.length > 0} onClick={() => void send()}>
        Send round {p.round + 1}
      </Button>
    </div>
  );
}

function NextDraft({ p, item }: { p: PackageView; item: PackageItem }) {
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
        {isNew
          ? `${latest.revision}.${latest.ordinal} ready`
          : item.standing !== "returned"
            ? "not returned"
            : staysAsItIs
              ? "goes again as it is"
              : "needs its next draft"}
      </span>
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
