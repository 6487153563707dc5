import { useQuery } from "@tanstack/react-query";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { stepsOf, planOf } from "../api/types";
import { HistoryList } from "../slip/History";
import { IntakeAnswers } from "../slip/IntakeAnswers";
import { packageQuery } from "../slip/packageQuery";
import { stripOf } from "../strip/stripOf";
import { Clamped } from "../ui/Clamped";
import { Unfetched } from "../ui/Unfetched";
import { Waiting } from "../ui/Waiting";
import { usePeople } from "../ui/people";
import { Strip } from "../strip/Strip";
import { exactly } from "../ui/time";

/** One package in the list of turnaround: its strip in full, its form, who did what when, and every event of its ledger. */
export function Passage({ id }: { id: string }) {
  const me = useMe();
  const people = usePeople();
  const { data: p, error } = useQuery({ ...packageQuery(id), meta: { saysItself: true } });
  const { data: events } = useQuery({
    queryKey: ["package", id, "ledger"],
    queryFn: () => api.get(`/packages/${id}/ledger`),
  });
  if (!p)
    return error ? (
      <Unfetched title="The package could not be fetched" error={error} />
    ) : (
      <Waiting>Fetching the package …</Waiting>
    );
  const steps = stepsOf(planOf(p.slip));
  const roleOf = (seat: string) => {
    const step = steps.find((s) => s.seats.some((x) => x.key === seat));
    return step ? `${step.name}, ${step.seats.find((x) => x.key === seat)?.role ?? ""}` : seat;
  };
  return (
    <div className="grid gap-x-8 gap-y-4 xl:grid-cols-2">
      <div className="min-w-0 xl:col-span-2">
        <Strip state={stripOf(p)} me={me.id} people={people} />
      </div>
      <section aria-label="Form and signatures">
        {p.coveringNote && (
          <div className="mb-2">
            <Clamped>{p.coveringNote}</Clamped>
          </div>
        )}
        <IntakeAnswers p={p} />
        <h2 className="label mb-1">Who signed what, when</h2>
        {p.signOffs.length === 0 && <p className="text-soft">Nobody has signed yet.</p>}
        <table className="w-full text-left">
          <tbody>
            {p.signOffs.map((s) => (
              <tr key={s.id} className={`border-t border-dotted border-rule align-top ${s.stands ? "" : "text-soft"}`}>
                <td className="py-1 pr-3 whitespace-nowrap">{exactly(s.at)}</td>
                <td className="py-1 pr-3">
                  {s.name}
                  {s.for && ` for ${people.get(s.for)?.name ?? ""}`}
                </td>
                <td className="py-1 pr-3">
                  {roleOf(s.seat)}
                  {s.round > 1 && `, round ${s.round}`}
                </td>
                <td className="py-1">
                  {s.verdicts.some((v) => v.verdict === "returnForChanges")
                    ? "returned"
                    : s.verdicts.some((v) => v.verdict === "approveAsNoted")
                      ? "approved as noted"
                      : "approved"}
                  {!s.stands && !s.verdicts.some((v) => v.stands) && " (stands no more)"}
                  {s.verdicts.some((v) => v.seen !== null) && (
                    <span className="block text-soft">
                      seen at a legible size:{" "}
                      {s.verdicts
                        .flatMap((v) => {
                          const item = p.items.find((i) => i.document === v.document);
                          return v.seen === null ? [] : [`${item ? `${item.number} ` : ""}${v.seen} %`];
                        })
                        .join(", ")}
                    </span>
                  )}
                  {s.remark && <span className="block text-soft">{s.remark}</span>}
                  {s.answers.map((a) => (
                    <span key={a.checkpoint} className="block text-soft">
                      {steps.flatMap((x) => x.checkpoints ?? []).find((c) => c.key === a.checkpoint)?.text}: {a.value}
                    </span>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section aria-label="Every event" className="max-h-80 min-w-0 overflow-y-auto" tabIndex={0}>
        <h2 className="label mb-1">Every event</h2>
        {events && <HistoryList entries={events} />}
      </section>
    </div>
  );
}
