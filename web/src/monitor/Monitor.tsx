import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { ChevronDown, ChevronRight } from "lucide-react";
import { Fragment, useState } from "react";
import { Link } from "react-router";
import { PlaceBar } from "../App";
import { api } from "../api/client";
import { stepsOf, type PackageRow, type PlanRow, planOf } from "../api/types";
import { rowStrip } from "../bench/strip";
import { Passage } from "./Passage";
import { Button, Empty, StandingTag, Tick } from "../ui/kit";
import { usePeople } from "../ui/people";
import { MiniStrip } from "../ui/Strip";
import { exactly, timeLeft, when } from "../ui/time";

const PAGE = 50;
const standings = [
  ["", "all"],
  ["running", "in review"],
  ["returned", "returned"],
  ["released", "released"],
  ["stopped", "stopped"],
] as const;

/** Every package, running or finished: where it is, who is awaited, since when. */
export function Monitor() {
  const people = usePeople();
  const [standing, setStanding] = useState("running");
  const [plan, setPlan] = useState("");
  const [person, setPerson] = useState("");
  const [search, setSearch] = useState("");
  const [late, setLate] = useState(false);
  const [step, setStep] = useState("");
  const [opened, setOpened] = useState<string | null>(null);
  const { data: plans } = useQuery({ queryKey: ["plans"], queryFn: () => api.get<PlanRow[]>("/plans") });
  const along = plans?.find((p) => p.id === plan);
  const steps = along ? stepsOf(planOf(along)) : [];
  const asked = (more: Record<string, string>) =>
    new URLSearchParams(
      Object.entries({ standing, plan, person, step, search, ...more }).filter(([, v]) => v !== ""),
    ).toString();
  // Late ones first, whatever page they would stand on.
  const { data: lateRows } = useQuery({
    queryKey: ["packages", "late", standing, plan, person, step, search],
    queryFn: () => api.get<PackageRow[]>(`/packages?${asked({ late: "true" })}`),
  });
  const { data, hasNextPage, fetchNextPage, isFetching } = useInfiniteQuery({
    queryKey: ["packages", standing, plan, person, step, search],
    initialPageParam: "",
    queryFn: ({ pageParam }) => api.get<PackageRow[]>(`/packages?${asked({})}${pageParam}`),
    getNextPageParam: (page: PackageRow[]) => {
      const last = page.at(-1);
      return page.length < PAGE || !last
        ? undefined
        : `&beforeTime=${encodeURIComponent(last.sentAt)}&beforeId=${last.id}`;
    },
  });
  const first = lateRows ?? [];
  const isFirst = new Set(first.map((r) => r.id));
  const rows = late ? first : [...first, ...(data?.pages.flat() ?? []).filter((r) => !isFirst.has(r.id))];
  return (
    <>
      <PlaceBar
        title="Monitor"
        beside={
          <span className="text-soft">
            {first.length}
            {first.length === PAGE ? " or more" : ""} late
          </span>
        }
      >
        <input
          type="search"
          className="field !w-60"
          aria-label="Search number or title"
          placeholder="Number or title"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
      </PlaceBar>
      <main className="flex-1 overflow-y-auto">
        <div className="flex flex-wrap items-center gap-3 border-b border-rule px-6 py-2">
          <div role="radiogroup" aria-label="Standing" className="flex border border-ink">
            {standings.map(([value, words]) => (
              <button
                key={value}
                type="button"
                role="radio"
                aria-checked={standing === value}
                className={`border-l border-ink px-3 py-1 first:border-l-0 ${standing === value ? "bg-ink text-raised" : "hover:bg-picked"}`}
                onClick={() => setStanding(value)}
              >
                {words}
              </button>
            ))}
          </div>
          <select
            className="field !w-52"
            aria-label="Plan"
            value={plan}
            onChange={(e) => (setPlan(e.target.value), setStep(""))}
          >
            <option value="">every plan</option>
            {plans?.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
          {steps.length > 0 && (
            <select className="field !w-44" aria-label="Step" value={step} onChange={(e) => setStep(e.target.value)}>
              <option value="">every step</option>
              {steps.map((x) => (
                <option key={x.key} value={x.key}>
                  waits at {x.name}
                </option>
              ))}
            </select>
          )}
          <select
            className="field !w-52"
            aria-label="Person"
            value={person}
            onChange={(e) => setPerson(e.target.value)}
          >
            <option value="">everyone</option>
            {[...people.values()].map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
          <Tick words="only what is late" on={late} set={setLate} />
        </div>
        {data && rows.length === 0 && (
          <Empty title="No package fits">Choose another standing, or clear the search and the filters.</Empty>
        )}
        {rows.length > 0 && (
          <table className="w-full border-collapse text-left">
            <thead>
              <tr className="border-b border-rule">
                <th>
                  <span className="sr-only">Open</span>
                </th>
                {["Package", "From", "Sent", "Standing", "Route", "Waits at", "Time"].map((h) => (
                  <th key={h} className="label px-3 py-1.5 ">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => {
                const step = stepsOf(planOf(r.slip)).find((s) => s.key === r.step);
                const left = r.due ? timeLeft(r.due) : null;
                const isOpen = opened === r.id;
                return (
                  <Fragment key={r.id}>
                    <tr className={`border-b border-rule ${isOpen ? "bg-picked" : "hover:bg-[#edeae0]"}`}>
                      <td className="min-w-12 pl-4">
                        <button
                          type="button"
                          aria-expanded={isOpen}
                          aria-label={`${isOpen ? "Close" : "Open"} ${r.number}`}
                          className="rounded p-1 hover:bg-white"
                          onClick={() => setOpened(isOpen ? null : r.id)}
                        >
                          {isOpen ? <ChevronDown size={15} /> : <ChevronRight size={15} />}
                        </button>
                      </td>
                      <td className="w-full max-w-0 px-3 py-2" title={r.title}>
                        <Link to={`/packages/${r.id}`} className="block truncate font-semibold hover:underline">
                          {r.title}
                        </Link>
                        <span className="font-mono text-sm text-soft">
                          {r.number} · round {r.round} · {r.items} {r.items === 1 ? "item" : "items"}
                        </span>
                      </td>
                      <td className="px-3 whitespace-nowrap">{r.originatorName}</td>
                      <td className="px-3 whitespace-nowrap" title={exactly(r.sentAt)}>
                        {when(r.sentAt)}
                      </td>
                      <td className="px-3">
                        <StandingTag standing={r.standing} />
                      </td>
                      <td className="px-3">
                        <MiniStrip state={rowStrip(r)} />
                      </td>
                      <td className="max-w-[210px] min-w-[150px] px-3">
                        <span className="block truncate" title={step?.name}>
                          {step?.name}
                        </span>
                        {r.since && (
                          <span className="block text-sm whitespace-nowrap text-soft">since {when(r.since)}</span>
                        )}
                      </td>
                      <td className={`px-3 whitespace-nowrap ${left?.late ? "font-semibold text-rust" : "text-soft"}`}>
                        {left?.words}
                      </td>
                    </tr>
                    {isOpen && (
                      <tr className="border-b border-rule bg-raised">
                        <td colSpan={8} className="px-6 py-4">
                          <Passage id={r.id} />
                        </td>
                      </tr>
                    )}
                  </Fragment>
                );
              })}
            </tbody>
          </table>
        )}
        {!late && hasNextPage && (
          <div className="p-4 text-center">
            <Button disabled={isFetching} onClick={() => void fetchNextPage()}>
              Show more
            </Button>
          </div>
        )}
      </main>
    </>
  );
}
