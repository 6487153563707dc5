import { useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useRef, useState, useSyncExternalStore } from "react";
import { useAct } from "../api/useAct";
import { api } from "../api/client";
import { Button, Fault, Labelled } from "../ui/kit";
import { SignButton } from "../ui/SignButton";
import { goesInto, lacking, type Arrivals, type Arriving } from "../upload/arriving";

/** Where a file stands, in a few words. */
function standing(r: Arriving): string {
  if (r.fault) return "";
  if (r.state?.state === "read") {
    const { leaves, notShown, beside } = r.state.report!;
    const what =
      leaves.length === 0
        ? "not shown, travels along"
        : `${leaves.length} ${leaves[0]!.extents.length === 6 ? "model" : leaves[0]!.unit === "cell" ? (leaves.length === 1 ? "table" : "tables") : leaves.length === 1 ? "sheet" : "sheets"}`;
    // Files that are missing are told by themselves.
    const lost = notShown.filter((n) => !beside?.some((b) => b.name === n.type));
    return lost.length > 0 ? `${what}, not shown: ${lost.map((n) => `${n.count} × ${n.type}`).join(", ")}` : what;
  }
  if (r.state?.state === "waiting" && r.state.place > 1) return `waits, ${r.state.place - 1} before it`;
  if (r.state) return "is being read";
  return r.share > 0 ? `${Math.round(r.share * 100)} % sent` : "waits";
}

type Props = {
  arrivals: Arrivals;
  folder: string;
  /** All are registered, or thrown away. */
  onDone: () => void;
};

/** Several files as a table: what each becomes, what is wrong with it, and one press to register them all. */
export function ArrivalTable({ arrivals, folder, onDone }: Props) {
  const rows = useSyncExternalStore(arrivals.subscribe, arrivals.now);
  const client = useQueryClient();
  const [reason, setReason] = useState("");
  const [discipline, setDiscipline] = useState("");
  const [isRefused, setRefused] = useState(false);
  const sent =
    rows.reduce((sum, r) => sum + r.share * r.file.size, 0) /
    Math.max(
      1,
      rows.reduce((s, r) => s + r.file.size, 0),
    );
  const arrived = rows.filter((r) => r.state?.state === "read").length;
  const isNew = (r: Arriving) => !r.match?.document;
  const lacks = (r: Arriving) =>
    r.fault ??
    (r.match?.document && r.match.refusal) ??
    // Until it is read, the file itself may still say both.
    (r.match && isNew(r) && r.state?.state === "read" && (!r.number.trim() || !r.title.trim())
      ? "Give it a number and a title."
      : null);
  const whole = rows.filter((r) => !goesInto(r, rows));
  const stuck = whole.filter((r) => lacks(r) ?? r.refusal).length;
  const table = useRef<HTMLTableElement>(null);
  /** To the first that cannot be registered as it is: into its field, where it has one. */
  const toStuck = () => {
    const row = table.current?.querySelector("[data-stuck]");
    row?.scrollIntoView({ block: "center" });
    row?.querySelector<HTMLElement>("input, button")?.focus({ preventScroll: true });
  };
  const ready = rows.length > 0 && arrived === rows.length && whole.every((r) => r.match && !lacks(r));
  const registering = useAct(async (key) => {
    const done = await api.once(key).post("/documents/together", {
      rows: whole.map((r) => ({
        upload: r.state!.id,
        document: r.match!.document ?? null,
        number: r.number,
        title: r.title,
        kind: r.kind,
        discipline: r.discipline || "General",
      })),
      reason,
      folder,
    });
    arrivals.refuse(done.faults.map((f) => ({ ...f, row: rows.indexOf(whole[f.row]!) })));
    if (done.faults.length > 0) return setRefused(true);
    setRefused(false);
    await client.invalidateQueries({ queryKey: ["documents"] });
    await client.invalidateQueries({ queryKey: ["document"] });
    onDone();
  });
  const fault = isRefused
    ? "Nothing was registered yet: see what stands beside the files, and press again."
    : registering.fault;
  const busy = registering.isBusy;
  const cell = "border-b border-rule px-2 py-1.5 align-top";
  return (
    <form
      aria-label="Files to register"
      className="flex min-h-0 min-w-0 flex-1 flex-col"
      onSubmit={(e) => {
        e.preventDefault();
        void registering.run();
      }}
    >
      <div className="flex items-center gap-4 border-b border-rule px-4 py-2" role="status">
        <b className="font-semibold">
          {rows.length} {rows.length === 1 ? "file" : "files"}
        </b>
        <span className="h-1.5 w-48 bg-rule">
          <span className="block h-full bg-spruce" style={{ width: `${sent * 100}%` }} />
        </span>
        <span className="text-soft">{arrived} arrived and read</span>
        {stuck > 0 && (
          <span className="text-rust">
            {stuck} {stuck === 1 ? "needs a look" : "need a look"}{" "}
            <button type="button" className="underline" onClick={toStuck}>
              Show {stuck === 1 ? "it" : "the first"}
            </button>
          </span>
        )}
        <Button look="quiet" className="ml-auto" onClick={onDone}>
          Cancel all
        </Button>
      </div>
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={-1}>
        <table ref={table} className="w-full border-collapse">
          <thead>
            <tr className="label sticky top-0 z-10 bg-ground text-left">
              {["File", "Becomes", "Number", "Title", "Kind", "Discipline"].map((h) => (
                <th key={h} scope="col" className="px-2 py-1.5 font-semibold">
                  {h}
                </th>
              ))}
              <td />
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => {
              const into = goesInto(r, rows);
              const missing = lacking(r, rows);
              return (
                <tr
                  key={r.id}
                  data-testid="arriving"
                  {...(!into && (lacks(r) ?? r.refusal) ? { "data-stuck": true, className: "bg-fault" } : {})}
                >
                  <td className={`${cell} max-w-64`}>
                    <span className="block truncate font-medium" title={r.file.name}>
                      {r.file.name}
                    </span>
                    <span className="block text-sm text-soft">{standing(r)}</span>
                    {r.match?.doubt && <span className="block text-sm text-ochre">{r.match.doubt}</span>}
                    {missing.length > 0 && (
                      <span className="block text-sm text-ochre" title={missing.join(", ")}>
                        {missing.length === 1
                          ? "1 other file that it consists of is"
                          : `${missing.length} other files that it consists of are`}{" "}
                        missing: {missing.slice(0, 3).join(", ")}
                        {missing.length > 3 && " …"}. What comes later is put in by itself.
                      </span>
                    )}
                    {!into && (lacks(r) ?? r.refusal) && (
                      <span className="block text-sm text-rust">{lacks(r) ?? r.refusal}</span>
                    )}
                    {r.canRetry && (
                      <button type="button" className="text-sm underline" onClick={() => arrivals.retry(r.id)}>
                        Send it again
                      </button>
                    )}
                  </td>
                  <td className={`${cell} whitespace-nowrap`}>
                    {into ? (
                      `goes into ${into.file.name}`
                    ) : !r.match ? (
                      ""
                    ) : isNew(r) ? (
                      "new, draft A.1"
                    ) : (
                      <>
                        draft {r.match.draft}
                        <button
                          type="button"
                          className="block text-sm underline"
                          onClick={() =>
                            arrivals.edit(r.id, { match: { ...r.match!, document: null, doubt: null }, number: "" })
                          }
                        >
                          Make it new
                        </button>
                      </>
                    )}
                  </td>
                  {into ? (
                    <td className={cell} colSpan={4} />
                  ) : isNew(r) ? (
                    <>
                      <td className={cell}>
                        <input
                          aria-label={`Number of ${r.file.name}`}
                          className="field font-mono"
                          style={{ minWidth: 110 }}
                          maxLength={40}
                          value={r.number}
                          onChange={(e) => arrivals.edit(r.id, { number: e.target.value })}
                        />
                      </td>
                      <td className={cell}>
                        <input
                          aria-label={`Title of ${r.file.name}`}
                          className="field"
                          style={{ minWidth: 160 }}
                          maxLength={200}
                          value={r.title}
                          onChange={(e) => arrivals.edit(r.id, { title: e.target.value })}
                        />
                      </td>
                      <td className={cell}>
                        <select
                          aria-label={`Kind of ${r.file.name}`}
                          className="field"
                          style={{ minWidth: 136 }}
                          value={r.kind}
                          disabled={r.state?.report?.leaves.length === 0}
                          onChange={(e) => arrivals.edit(r.id, { kind: e.target.value as Arriving["kind"] })}
                        >
                          <option value="drawing">Drawing</option>
                          <option value="model">Model</option>
                          <option value="supporting file">Supporting file</option>
                        </select>
                      </td>
                      <td className={cell}>
                        <input
                          aria-label={`Discipline of ${r.file.name}`}
                          className="field"
                          style={{ minWidth: 100 }}
                          maxLength={60}
                          value={r.discipline}
                          onChange={(e) => arrivals.edit(r.id, { discipline: e.target.value })}
                        />
                      </td>
                    </>
                  ) : (
                    <>
                      <td className={`${cell} font-mono`}>{r.match!.number}</td>
                      <td className={cell} colSpan={3}>
                        {r.match!.title}
                      </td>
                    </>
                  )}
                  <td className={cell}>
                    <SignButton words={`Leave out ${r.file.name}`} onClick={() => arrivals.remove(r.id)}>
                      <X size={15} />
                    </SignButton>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <div className="flex flex-wrap items-end gap-4 border-t border-rule bg-ground px-4 py-3">
        <Labelled label="Discipline of all new ones">
          <input
            className="field"
            maxLength={60}
            value={discipline}
            onChange={(e) => {
              setDiscipline(e.target.value);
              arrivals.edit(
                rows.filter(isNew).map((r) => r.id),
                { discipline: e.target.value },
              );
            }}
          />
        </Labelled>
        <div className="min-w-64 flex-1">
          <Labelled label="Reason, for the record of all" hint="May be left empty.">
            <input className="field" maxLength={400} value={reason} onChange={(e) => setReason(e.target.value)} />
          </Labelled>
        </div>
        <div className="mb-3 text-right">
          <Fault>{fault}</Fault>
          <Button look="main" type="submit" disabled={!ready || busy}>
            Register {whole.length === 1 ? "it" : `all ${whole.length}`}
          </Button>
        </div>
      </div>
    </form>
  );
}
