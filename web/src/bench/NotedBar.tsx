import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import type { PackageView } from "../api/types";
import { Button, Fault } from "../ui/kit";

/** Everything is signed; what was approved as noted waits for the originator's answers before it is released. */
export function NotedBar({ p, canAnswer }: { p: PackageView; canAnswer: boolean }) {
  const client = useQueryClient();
  const [words, setWords] = useState<Readonly<Record<string, string>>>({});
  const [fault, setFault] = useState<string | null>(null);
  const answered = p.slip.notedAnswers ?? [];
  const noted = p.signOffs
    .filter((s) => s.stands)
    .flatMap((s) =>
      s.verdicts
        .filter((v) => v.verdict === "approveAsNoted")
        .map((v) => ({ s, v, key: `${s.seat} ${s.person} ${v.draft}` })),
    );
  const send = async (seat: string, signer: string, draft: string, text: string) => {
    setFault(null);
    try {
      await api.post(`/packages/${p.id}/noted`, { seat, signer, draft, words: text });
      await client.invalidateQueries();
    } catch (e) {
      setFault((e as Error).message);
    }
  };
  return (
    <section aria-label="What was noted" className="max-h-[55%] shrink-0 overflow-y-auto border-t border-rule p-3.5">
      <h2 className="label mb-1">What was noted</h2>
      <p className="mb-2">
        Everything is signed. It is released when {canAnswer ? "you have" : "the originator has"} answered each note.
      </p>
      {noted.map(({ s, v, key }) => {
        const done = answered.find((a) => a.seat === s.seat && a.signer === s.person && a.draft === v.draft);
        return (
          <div key={key} className="mb-3 border-l-[3px] border-ochre pl-2.5">
            <p>
              <b className="font-semibold">{s.name}</b>{" "}
              <span className="font-mono text-sm">{p.items.find((i) => i.draft === v.draft)?.number}</span>
            </p>
            <p className="whitespace-pre-wrap">{v.reason}</p>
            {done && <p className="text-soft">Answered: {done.words}</p>}
            {!done && canAnswer && (
              <form
                onSubmit={(e) => {
                  e.preventDefault();
                  void send(s.seat, s.person, v.draft, words[key] ?? "");
                }}
              >
                <textarea
                  className="field mt-1"
                  rows={2}
                  aria-label={`Answer to ${s.name}`}
                  maxLength={4000}
                  value={words[key] ?? ""}
                  onChange={(e) => setWords({ ...words, [key]: e.target.value })}
                />
                <Button look="main" type="submit" disabled={!(words[key] ?? "").trim()}>
                  Answer
                </Button>
              </form>
            )}
          </div>
        );
      })}
      <Fault>{fault}</Fault>
    </section>
  );
}
