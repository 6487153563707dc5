import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { addressOf, api } from "../api/client";
import { Awaited } from "../ui/Awaited";
import { Button, Empty } from "../ui/kit";
import { useSettled } from "../ui/useSettled";
import { clockZone, exactly } from "../ui/time";

const kinds = [
  "signed in",
  "sign-in failed",
  "signed out",
  "sessions ended",
  "confirmation failed",
  "slowed down",
  "refused",
  "password changed",
  "rights changed",
  "person barred",
  "person let in again",
  "content altered",
];

/** What happened at the doors: failures, throttles, refusals, changes of rights. */
export function Security() {
  const [kind, setKind] = useState("");
  const [search, setSearch] = useState("");
  const words = useSettled(search);
  const log = useInfiniteQuery({
    queryKey: ["security", kind, words],
    queryFn: ({ pageParam }) => api.get("/security", { kind, search: words, after: pageParam }),
    initialPageParam: "",
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: (before) => before,
    meta: { saysItself: true },
  });
  const { data, fetchNextPage, hasNextPage, isFetchingNextPage } = log;
  const rows = data?.pages.flatMap((p) => p.rows) ?? [];
  return (
    <div className="flex min-w-0 flex-1 flex-col">
      <div className="flex items-center gap-2 border-b border-rule px-4 py-2">
        <input
          type="search"
          className="field !w-64"
          aria-label="Find in the security log"
          placeholder="Name, address or words"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        <select className="field !w-52" aria-label="What" value={kind} onChange={(e) => setKind(e.target.value)}>
          <option value="">everything</option>
          {kinds.map((k) => (
            <option key={k}>{k}</option>
          ))}
        </select>
        <span className="flex-1" />
        <a
          className="inline-flex min-h-8 items-center rounded-[5px] border border-edge bg-raised px-3 font-medium hover:bg-lit"
          href={`/api${addressOf("/security.csv", { kind, search: words, zone: clockZone() })}`}
          download
        >
          CSV
        </a>
      </div>
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="Security log">
        {!data ? (
          <Awaited what="the security log" of={log} />
        ) : rows.length === 0 ? (
          <Empty title="Nothing of that kind">Sign-ins, failures, refusals and changes of rights stand here.</Empty>
        ) : (
          <table className="w-full">
            <thead className="sticky top-0 bg-ground">
              <tr className="label text-left">
                {["When", "What", "Who", "Address", "Said"].map((h) => (
                  <th key={h} className="border-b border-ink px-3 py-1.5 font-semibold">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((e) => (
                <tr key={e.id} className="border-b border-rule align-top">
                  <td className="px-3 py-1.5 whitespace-nowrap">{exactly(e.at)}</td>
                  <td className="px-3 py-1.5 font-medium whitespace-nowrap">{e.kind}</td>
                  <td className="px-3 py-1.5 [overflow-wrap:anywhere]">{e.personName ?? e.login}</td>
                  <td className="px-3 py-1.5 font-mono text-sm whitespace-nowrap">{e.address}</td>
                  <td className="px-3 py-1.5 text-soft [overflow-wrap:anywhere]">{e.words}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {hasNextPage && (
          <div className="p-3 text-center">
            <Button disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
              Earlier ones
            </Button>
          </div>
        )}
      </div>
    </div>
  );
}
