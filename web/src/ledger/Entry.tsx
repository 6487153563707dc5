import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import type { ListedEntry } from "../api/types";
import { Button, Fault } from "../ui/kit";
import { usePeople } from "../ui/people";
import { exactly } from "../ui/time";

/** One entry to the letter: what was recorded, its hashes, and whether the chain it stands in holds. */
export function Entry({ e, onOnly, isOnly }: { e: ListedEntry; onOnly: () => void; isOnly: boolean }) {
  const proof = useQuery({
    queryKey: ["ledger", "proof", e.chain],
    queryFn: () => api.get(`/ledger/${e.chain}/proof`),
    enabled: false,
    meta: { saysItself: true },
  });
  const found = proof.data;
  const people = usePeople();
  const named = [...new Set(e.payload.match(/[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g))].flatMap(
    (id) => people.get(id) ?? [],
  );
  return (
    <div className="grid gap-x-8 gap-y-3 lg:grid-cols-2">
      <section aria-label="What was recorded" className="min-w-0">
        {e.reason && (
          <>
            <h2 className="label">Reason</h2>
            <p className="mb-3 break-words whitespace-pre-wrap">{e.reason}</p>
          </>
        )}
        <h2 className="label">As recorded</h2>
        <pre
          className="mt-1 max-h-72 overflow-auto border border-rule bg-raised p-2 font-mono text-sm break-words whitespace-pre-wrap"
          tabIndex={0}
        >
          {JSON.stringify(JSON.parse(e.payload), null, 2)}
        </pre>
        {named.length > 0 && (
          <dl className="mt-2 text-sm">
            {named.map((person) => (
              <div key={person.id} className="flex flex-wrap gap-x-2">
                <dt className="font-mono text-soft">{person.id}</dt>
                <dd>{person.name}</dd>
              </div>
            ))}
          </dl>
        )}
      </section>
      <section aria-label="Its place in its chain" className="min-w-0">
        <dl className="mb-3">
          <dt className="label">Number in its chain</dt>
          <dd className="mb-2">{e.sequence}</dd>
          <dt className="label">Hash of the entry before (SHA-256)</dt>
          <dd className="mb-2 font-mono text-sm break-all">{e.before}</dd>
          <dt className="label">Hash of this entry</dt>
          <dd className="font-mono text-sm break-all">{e.hash}</dd>
        </dl>
        <div className="flex flex-wrap items-center gap-2">
          <Button disabled={proof.isFetching} onClick={() => void proof.refetch()}>
            Check this chain
          </Button>
          {!isOnly && (
            <Button look="quiet" onClick={onOnly}>
              Show this chain only
            </Button>
          )}
        </div>
        {found && !found.fault && (
          <p className="mt-2" role="status">
            <b className="font-semibold">The chain holds.</b>{" "}
            {found.entries === 1
              ? `Its only entry is of ${exactly(found.from)}.`
              : `Each of its ${found.entries} entries follows from the one before, ${exactly(found.from)} to ${exactly(found.until)}.`}
          </p>
        )}
        {found?.fault && (
          <Fault>
            The chain breaks at entry {found.fault.sequence}: {found.fault.what}. What stands from there on is not what
            was recorded. Tell whoever runs Froe, and keep the last backup.
          </Fault>
        )}
        <Fault>{proof.error?.message}</Fault>
      </section>
    </div>
  );
}
