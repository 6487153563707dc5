import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { planOf, type PackageView } from "../api/types";
import { Button, Fault } from "../ui/kit";

/** What was approved as noted, wherever its sign-off stands now, with the originator's answers; they hold the release where the plan says so. */
export function NotedBar({ p, canAnswer }: { p: PackageView; canAnswer: boolean }) {
  const client = useQueryClient();
  const [words, setWords] = useState<Readonly<Record<string, string>>>({});
  const [fault, setFault] = useState<string | null>(null);
  const noted = p.signOffs.flatMap((s) =>
    s.verdicts
      .filter((v) => v.verdict === "approveAsNoted" && v.stands)
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
        {p.isHeld
          ? `Everything is signed. It is released when ${canAnswer ? "you have" : "the originator has"} answered each note.`
          : planOf(p.slip).holdsNoted
            ? "It must be answered before the package is released."
            : "It may be answered; the release does not wait for it."}
      </p>
      {noted.map(({ s, v, key }) => {
        return (
          <div key={key} className="mb-3 border-l-[3px] border-ochre pl-2.5">
            <p>
              <b className="font-semibold">{s.name}</b>{" "}
              <span className="font-mono text-sm">{p.items.find((i) => i.draft === v.draft)?.number}</span>
            </p>
            <p className="whitespace-pre-wrap">{v.reason}</p>
            {v.answer !== null && <p className="text-soft">Answered: {v.answer}</p>}
            {v.wantsAnswer && canAnswer && (
              <form
                onSubmit={(e) => {
                  e.preventDefault();
                  void send(
                    s.seat,
                    s.person,
                    p.items.find((i) => i.sha256 === v.sha256)?.draft ?? v.draft,
                    words[key] ?? "",
                  );
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
