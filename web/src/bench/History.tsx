import type { HistoryEntry } from "../api/types";
import { exactly } from "../ui/time";

/** The step an act is about, where it is about one. */
function stepOf(e: HistoryEntry): string | undefined {
  return (e.payload as { step?: string } | null)?.step;
}

/** Acts of a ledger, as they were written: who, what, when, why. */
export function HistoryList({ entries }: { entries: HistoryEntry[] }) {
  return (
    <ol>
      {entries.map((e, i) => (
        <li key={i} className="border-b border-dotted border-rule py-1.5">
          <div className="flex gap-2">
            <span className="min-w-0 flex-1">
              <b className="font-semibold">{e.person ?? "Froe"}</b> · {e.action}
              {stepOf(e) && <span className="text-soft"> “{stepOf(e)}”</span>}
              {e.package && <span className="text-soft"> · {e.package}</span>}
            </span>
            <span className="shrink-0 text-sm text-soft">{exactly(e.at)}</span>
          </div>
          {e.reason && <p className="text-soft">{e.reason}</p>}
          <p className="font-mono text-[11px] text-soft" title="Number and hash of this entry in its chain">
            {e.sequence} · {e.hash}
          </p>
        </li>
      ))}
    </ol>
  );
}
