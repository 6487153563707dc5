import { useQueryClient } from "@tanstack/react-query";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import { useKept } from "../kept/useKept";
import { planOf, type PackageView } from "../api/types";
import { Button, Fault } from "../ui/kit";

/** What was approved as noted, wherever its sign-off stands now, with the originator's answers; they hold the release where the plan says so. */
export function NotedBar({ p, canAnswer }: { p: PackageView; canAnswer: boolean }) {
  const client = useQueryClient();
  const answers = useKept<Readonly<Record<string, string>>>(`answers to what was noted on ${p.id}`, {});
  const words = answers.value;
  const noted = p.signOffs.flatMap((s) =>
    s.verdicts
      .filter((v) => v.verdict === "approveAsNoted" && v.stands)
      .map((v) => ({ s, v, key: `${s.seat} ${s.person} ${v.draft}` })),
  );
  const sending = useAct(async (act, seat: string, signer: string, draft: string, key: string) => {
    await api.once(act).post(`/packages/${p.id}/noted`, { seat, signer, draft, words: words[key] ?? "" });
    answers.set((was) => ({ ...was, [key]: "" }));
    await client.invalidateQueries();
  });
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
              <span className="font-mono text-sm">{p.items.find((i) => i.document === v.document)?.number}</span>
            </p>
            <p className="whitespace-pre-wrap">{v.reason}</p>
            {v.answer !== null && <p className="text-soft">Answered: {v.answer}</p>}
            {v.wantsAnswer && canAnswer && (
              <form
                onSubmit={(e) => {
                  e.preventDefault();
                  void sending.run(s.seat, s.person, v.standsUnder ?? v.draft, key);
                }}
              >
                <textarea
                  className="field mt-1"
                  rows={2}
                  aria-label={`Answer to ${s.name}`}
                  maxLength={4000}
                  readOnly={sending.isBusy}
                  value={words[key] ?? ""}
                  onChange={(e) => answers.set({ ...words, [key]: e.target.value })}
                />
                <Button look="main" type="submit" disabled={sending.isBusy || !(words[key] ?? "").trim()}>
                  Answer
                </Button>
              </form>
            )}
          </div>
        );
      })}
      <Fault>{sending.fault}</Fault>
    </section>
  );
}
