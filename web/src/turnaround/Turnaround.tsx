import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { Awaited, isFirstAwaited } from "../ui/Awaited";
import { MarkedSign } from "../ui/MarkedSign";
import { PlaceBar } from "../ui/PlaceBar";
import { api } from "../api/client";
import { stepsOf, type PackageRow, planOf } from "../api/types";
import { rowStrip } from "../strip/stripOf";
import { FoldingTable } from "../lists/FoldingTable";
import { useListing, usePages, type Column } from "../lists/listing";
import { SearchBox } from "../lists/SearchBox";
import { Choice, Filter, ListTools, ShowMore } from "../lists/Tools";
import { fitsAsked, latePackages, packagesAsked, packagesList, standings } from "./packagesList";
import { Passage } from "./Passage";
import { Button, Empty, StandingTag, Tick } from "../ui/kit";
import { usePeople } from "../ui/people";
import { MiniStrip } from "../strip/Strip";
import { exactlyThere, timeLeft, when } from "../ui/time";

const PAGE = 50;
const filters = ["plan", "person", "step", "search", "late"] as const;
const USUAL_SORT = "-sent";
/** What stands in the address, and what the server is asked for; without any, what is in review. */
const columns: readonly Column<PackageRow>[] = [
  {
    name: "package",
    title: "Package",
    sorts: "up",
    usual: true,
    fixed: true,
    look: "w-full max-w-0 min-w-44 py-2",
    cell: (r) => (
      <>
        <span className="flex items-center gap-1.5">
          <Link to={`/packages/${r.id}`} className="block truncate font-semibold hover:underline" title={r.title}>
            {r.title}
          </Link>
          {r.isMarked && <MarkedSign of={r.number} package={r.id} />}
        </span>
        <span className="block truncate font-mono text-sm text-soft">
          {r.number} · round {r.round} · {r.items} {r.items === 1 ? "item" : "items"}
        </span>
      </>
    ),
  },
  { name: "from", title: "From", usual: true, look: "max-w-44 truncate", cell: (r) => r.originatorName },
  {
    name: "sent",
    title: "Sent",
    sorts: "down",
    usual: true,
    look: "whitespace-nowrap",
    cell: (r) => <span title={exactlyThere(r.sentAt)}>{when(r.sentAt)}</span>,
  },
  {
    name: "change",
    title: "Change order",
    usual: false,
    look: "max-w-40 truncate",
    cell: (r) => <span title={r.changeOrder}>{r.changeOrder}</span>,
  },
  {
    name: "plan",
    title: "Plan",
    usual: false,
    look: "max-w-44 truncate",
    cell: (r) => <span title={planOf(r.slip).name}>{planOf(r.slip).name}</span>,
  },
  { name: "standing", title: "Standing", usual: true, cell: (r) => <StandingTag standing={r.standing} /> },
  {
    name: "requests",
    title: "Open requests",
    usual: false,
    cell: (r) => r.openRequests || <span className="text-soft">none</span>,
  },
  { name: "route", title: "Route", usual: true, cell: (r) => <MiniStrip state={rowStrip(r)} /> },
  {
    name: "waits",
    title: "Waits at",
    usual: true,
    look: "max-w-[210px] min-w-[150px]",
    cell: (r) => {
      return (
        <>
          <span className="block truncate" title={r.waitsAt}>
            {r.waitsAt}
          </span>
          {r.since && <span className="block text-sm whitespace-nowrap text-soft">since {when(r.since)}</span>}
        </>
      );
    },
  },
  {
    name: "due",
    title: "Time",
    usual: true,
    look: "whitespace-nowrap",
    cell: (r) => {
      const left = r.due && r.left ? timeLeft(r.left, r.due) : null;
      return <span className={left?.late ? "font-semibold text-rust" : "text-soft"}>{left?.words}</span>;
    },
  },
];

/** Every package, running or finished: where it is, who is awaited, since when. */
export function Turnaround() {
  const people = usePeople();
  const listing = useListing(columns, USUAL_SORT);
  const late = listing.get("late") !== "";
  const { data: plans } = useQuery({ queryKey: ["plans"], queryFn: () => api.get("/plans") });
  const along = plans?.find((p) => p.id === listing.get("plan"));
  const steps = along ? stepsOf(planOf(along)) : [];
  const what = packagesAsked(listing.get);
  // Late ones first, whatever page they would stand on; a list sorted otherwise keeps its own order.
  const lateOnes = useQuery({ ...latePackages(fitsAsked(listing.get)), placeholderData: keepPreviousData });
  const list = usePages(packagesList(what));
  const overdue = lateOnes.data ?? [];
  const isLateFirst = listing.sort === USUAL_SORT;
  const first = isLateFirst ? overdue : [];
  // What stands below others is shown with them, so that neither is pushed about by the other.
  const data = isLateFirst && isFirstAwaited(lateOnes) ? undefined : list.data;
  const isFirst = new Set(first.map((r) => r.id));
  const rows = data ? [...first, ...data.filter((r) => !isFirst.has(r.id))] : [];
  const isFiltered = filters.some((name) => listing.get(name) !== "");
  return (
    <>
      <PlaceBar
        title="Turnaround"
        beside={
          <span className="text-soft">
            {lateOnes.data
              ? `${overdue.length}${overdue.length === PAGE ? " or more" : ""} late${first.length > 0 && !late ? ", listed first" : ""}`
              : ""}
          </span>
        }
      >
        <SearchBox listing={listing} label="Search number, title or change order" hint="Number, title, change order" />
        <ListTools listing={listing} list="turnaround" columns={columns} csv="/api/packages.csv" what={what} />
      </PlaceBar>
      <main className="flex-1 overflow-y-auto">
        <div className="flex flex-wrap items-center gap-3 border-b border-rule px-6 py-2">
          <Choice
            listing={listing}
            name="standing"
            label="Standing"
            values={standings.map(([value, words]) => [value, words])}
          />
          <Filter
            listing={listing}
            name="plan"
            label="Plan"
            any="every plan"
            width="!w-52"
            values={(plans ?? []).map((p) => [p.id, p.name])}
            also={{ step: "" }}
          />
          {steps.length > 0 && (
            <Filter
              listing={listing}
              name="step"
              label="Step"
              any="every step"
              width="!w-44"
              values={steps.map((s) => [s.key, `waits at ${s.name}`])}
            />
          )}
          <Filter
            listing={listing}
            name="person"
            label="Person"
            any="everyone"
            width="!w-52"
            values={[...people.values()].map((p) => [p.id, p.name])}
          />
          <div className="-mb-1">
            <Tick words="only what is late" on={late} set={(on) => listing.set({ late: on ? "yes" : "" })} />
          </div>
          {isFiltered && (
            <Button look="quiet" onClick={() => listing.clear(filters)}>
              Clear the filters
            </Button>
          )}
        </div>
        <Awaited what="the packages" of={{ data, error: list.error }} />
        {data && rows.length === 0 && (
          <Empty title="No package fits">Choose another standing, or clear the search and the filters.</Empty>
        )}
        {rows.length > 0 && (
          <FoldingTable listing={listing} rows={rows} isOld={list.isPlaceholderData} nameOf={(r) => r.number}>
            {(r) => <Passage id={r.id} />}
          </FoldingTable>
        )}
        <ShowMore list={list} />
      </main>
    </>
  );
}
