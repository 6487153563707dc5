import { Clamped } from "../ui/Clamped";
import { stepsOf, type HistoryEntry, type Plan } from "../api/types";
import { exactly } from "../ui/time";

type Payload = {
  step?: string;
  to?: string;
  from?: string;
  folder?: string;
  scale?: string;
  sheet?: string;
  plan?: Plan;
} | null;

/** What an act was about, in the words people know: a step's name as its package's plan has it, a standing, a folder. */
function aboutOf(entries: readonly HistoryEntry[]): (e: HistoryEntry) => string | undefined {
  const names = new Map<string, string>();
  for (const e of entries)
    for (const s of (e.payload as Payload)?.plan?.root ? stepsOf((e.payload as { plan: Plan }).plan) : [])
      names.set(`${e.package ?? ""} ${s.key}`, s.name);
  return (e) => {
    const p = e.payload as Payload;
    const step = p?.step ?? (e.action === "returned to a step" ? p?.to : undefined);
    if (step) return `“${names.get(`${e.package ?? ""} ${step}`) ?? step}”`;
    if (e.action === "standing moved") return `from ${p?.from ?? ""} to ${p?.to ?? ""}`;
    if (p?.scale !== undefined) return [p.scale, p.sheet].filter(Boolean).join(", ");
    return p?.folder !== undefined ? `in ${p.folder || "the register"}` : undefined;
  };
}

/** Acts of a ledger, as they were written: who, what, when, why. */
export function HistoryList({ entries }: { entries: HistoryEntry[] }) {
  const about = aboutOf(entries);
  return (
    <ol>
      {entries.map((e, i) => (
        <li key={i} className="border-b border-dotted border-rule py-1.5">
          <div className="flex gap-2">
            <span className="min-w-0 flex-1">
              <b className="font-semibold">{e.person ?? "Froe"}</b> · {e.action}
              {about(e) && <span className="text-soft"> {about(e)}</span>}
              {e.package && <span className="text-soft"> · {e.package}</span>}
            </span>
            <span className="shrink-0 text-sm text-soft">{exactly(e.at)}</span>
          </div>
          {e.reason && (
            <div className="text-soft">
              <Clamped>{e.reason}</Clamped>
            </div>
          )}
          <p className="font-mono text-[11px] text-soft" title="Number and hash of this entry in its chain">
            {e.sequence} · {e.hash}
          </p>
        </li>
      ))}
    </ol>
  );
}
