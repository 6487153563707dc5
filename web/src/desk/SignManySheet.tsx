import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { newKey } from "../api/key";
import { useAct } from "../api/useAct";
import type { OneOfMany, PackageRow } from "../api/types";
import { useKept } from "../kept/useKept";
import { CheckpointFields } from "../slip/CheckpointFields";
import { Button, Fault, Labelled } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { seatOf, type Batch, type Looked } from "./batches";

/** Signs several packages of one step at once. */
export function SignManySheet({ onClose, ...form }: { batch: Batch; onClose: () => void } & Looked) {
  return (
    <SideSheet title={`Sign at ${form.batch.step.name}`} open onClose={onClose}>
      <Form {...form} onClose={onClose} />
    </SideSheet>
  );
}

/** How many items of a package are to be looked at first, and what that means. */
function leftOf(row: PackageRow, asked: number, { opened, seen }: Looked): { count: number; words: string } {
  const closed = row.slip.items.filter((i) => !opened.includes(i.draft)).length;
  if (closed > 0) return { count: closed, words: "not opened yet" };
  const short = row.slip.items.filter((i) => (seen.find((s) => s.draft === i.draft)?.percent ?? 100) < asked).length;
  return { count: short, words: `seen less than the ${asked} % that this step asks` };
}

function Form({ batch, onClose, ...looked }: { batch: Batch; onClose: () => void } & Looked) {
  const me = useMe();
  const client = useQueryClient();
  const left = (row: PackageRow) => leftOf(row, batch.step.seenShare ?? 0, looked);
  const [picked, setPicked] = useState<readonly string[]>(
    batch.rows.filter((r) => left(r).count === 0).map((r) => r.id),
  );
  const [answers, setAnswers] = useState<Readonly<Record<string, string>>>({});
  const written = useKept(`signing many at ${batch.step.key}`, "");
  const remark = written.value;
  const [password, setPassword] = useState("");
  const [done, setDone] = useState<readonly OneOfMany[]>([]);
  // One key for each package however often the button is pressed.
  const [keys] = useState(() => new Map(batch.rows.map((r) => [r.id, newKey()])));
  const signing = useAct(async () => {
    const { grant } = await api.post("/session/confirm", { password });
    const result = await api.post("/sign-offs", {
      grant,
      remark,
      answers: Object.entries(answers).map(([checkpoint, value]) => ({ checkpoint, value })),
      packages: batch.rows
        .filter((r) => picked.includes(r.id))
        .map((r) => ({ package: r.id, seat: seatOf(r, batch.step, me.id)!, key: keys.get(r.id)! })),
    });
    setDone(result);
    const isWhole = result.every((r) => !r.refusal);
    if (isWhole) written.discard();
    await client.invalidateQueries();
    if (isWhole) onClose();
  });
  const { isBusy: busy, fault } = signing;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void signing.run();
      }}
    >
      <p className="mb-2">
        Every item of the packages you pick is approved. Only packages whose items you have all had open can be picked.
      </p>
      <ul className="mb-4 border border-rule">
        {batch.rows.map((r) => {
          const { count, words } = left(r);
          const refusal = done.find((d) => d.id === r.id)?.refusal;
          return (
            <li key={r.id} className="border-t border-rule px-2 py-1.5 first:border-t-0">
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="h-4 w-4 accent-spruce"
                  disabled={count > 0}
                  checked={picked.includes(r.id)}
                  onChange={() =>
                    setPicked(picked.includes(r.id) ? picked.filter((x) => x !== r.id) : [...picked, r.id])
                  }
                />
                <span className="font-mono text-sm">{r.number}</span>
                <span className="min-w-0 flex-1 truncate font-medium">{r.title}</span>
                <span className="text-sm text-soft">
                  {r.items} {r.items === 1 ? "item" : "items"}
                </span>
              </label>
              {count > 0 && (
                <p className="pl-6 text-sm text-soft">
                  {count} {words}.{" "}
                  <Link className="text-ink underline" to={`/packages/${r.id}`}>
                    Open the bench
                  </Link>
                </p>
              )}
              {refusal && <p className="pl-6 text-sm text-rust">{refusal}</p>}
            </li>
          );
        })}
      </ul>
      <CheckpointFields
        points={batch.step.checkpoints ?? []}
        answers={answers}
        hint="The same for all of them."
        onChange={setAnswers}
      />
      <Labelled label="Closing remark, for the record of each">
        <input className="field" maxLength={4000} value={remark} onChange={(e) => written.set(e.target.value)} />
      </Labelled>
      <Labelled label="Your password, again">
        <input
          className="field"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
        />
      </Labelled>
      <Fault>{fault}</Fault>
      <Button look="main" type="submit" disabled={busy || password === "" || picked.length === 0}>
        {busy ? "Signing …" : `Sign ${picked.length} ${picked.length === 1 ? "package" : "packages"}`}
      </Button>
    </form>
  );
}
