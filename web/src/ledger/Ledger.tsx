import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { Awaited } from "../ui/Awaited";
import { PlaceBar } from "../ui/PlaceBar";
import { useMe } from "../session/me";
import { api } from "../api/client";
import type { ListedEntry } from "../api/types";
import { FoldingTable } from "../lists/FoldingTable";
import { useListing, usePages, type Column, type Listing } from "../lists/listing";
import { SearchBox } from "../lists/SearchBox";
import { Choice, Filter, ListTools, ShowMore } from "../lists/Tools";
import { Button, Empty } from "../ui/kit";
import { DateField } from "../ui/DateField";
import { dayFrom } from "../ui/days";
import { usePeople } from "../ui/people";
import { exactly, when } from "../ui/time";
import { entriesAsked, entriesList } from "./entriesList";
import { Entry } from "./Entry";

const filters = ["subject", "person", "search", "from", "until", "chain"] as const;

/** Where what an entry is about can be looked at; the office's own acts are read here only. */
const placeOf = (e: ListedEntry): string | null =>
  e.subject === "package"
    ? `/packages/${e.chain}`
    : e.subject === "document"
      ? `/register/${e.chain}`
      : e.subject === "plan"
        ? `/plans/${e.chain}`
        : null;

function Subject({ e }: { e: ListedEntry }) {
  const me = useMe();
  const words = (
    <>
      {e.subjectNumber && <span className="font-mono text-sm">{e.subjectNumber} </span>}
      {e.subjectTitle}
    </>
  );
  // Plans are opened by those who may build them.
  const place = e.subject === "plan" && !me.canBuildPlans ? null : placeOf(e);
  return place ? (
    <Link to={place} className="hover:underline" title={e.subjectTitle}>
      {words}
    </Link>
  ) : (
    words
  );
}

const columns: readonly Column<ListedEntry>[] = [
  {
    name: "at",
    title: "When",
    sorts: "down",
    usual: true,
    fixed: true,
    look: "whitespace-nowrap py-1.5",
    cell: (e) => exactly(e.at),
  },
  {
    name: "person",
    title: "Who",
    usual: true,
    look: "max-w-44 truncate",
    cell: (e) => e.personName ?? <span className="text-soft">Froe</span>,
  },
  {
    name: "action",
    title: "What",
    usual: true,
    fixed: true,
    look: "whitespace-nowrap",
    cell: (e) => (
      <>
        <b className="font-semibold">{e.action}</b>
        {e.about && <span className="text-soft"> {e.about}</span>}
      </>
    ),
  },
  {
    name: "subject",
    title: "Of what",
    usual: true,
    look: "max-w-64 truncate",
    cell: (e) => <Subject e={e} />,
  },
  {
    name: "reason",
    title: "Reason",
    usual: true,
    look: "w-full max-w-0 min-w-40 truncate",
    cell: (e) => (
      <span className="text-soft" title={e.reason}>
        {e.reason}
      </span>
    ),
  },
  {
    name: "hash",
    title: "Entry",
    usual: false,
    look: "font-mono text-sm whitespace-nowrap text-soft",
    cell: (e) => `${e.sequence} · ${e.hash.slice(0, 12)}`,
  },
];

/** Everything that happened, by whoever, to whatever: for whoever has to answer for it. */
export function Ledger() {
  const me = useMe();
  const people = usePeople();
  const listing = useListing(columns, "-at");
  const what = entriesAsked(listing.get);
  const list = usePages(entriesList(what));
  const rows = list.data;
  const isFiltered = filters.some((name) => listing.get(name) !== "");
  return (
    <>
      <PlaceBar title="Ledger" beside={<SealWords />}>
        <SearchBox listing={listing} label="Find what an act was on" hint="Package, document, plan" />
        <ListTools listing={listing} list="ledger" columns={columns} csv="/api/ledger.csv" what={what} />
      </PlaceBar>
      <main className="flex-1 overflow-y-auto">
        <div className="flex flex-wrap items-center gap-3 border-b border-rule px-6 py-2">
          <Choice
            listing={listing}
            name="subject"
            label="Of what"
            values={[
              ["", "everything"],
              ["package", "packages"],
              ["document", "documents"],
              ["plan", "plans"],
              ...(me.canAdminister ? ([["office", "office"]] as const) : []),
            ]}
          />
          <Filter
            listing={listing}
            name="person"
            label="Person"
            any="by anyone"
            width="!w-44"
            values={[...people.values()].map((p) => [p.id, p.name])}
          />
          <Day listing={listing} name="from" words="from" />
          <Day listing={listing} name="until" words="to" />
          {isFiltered && (
            <Button look="quiet" onClick={() => listing.clear(filters)}>
              Clear the filters
            </Button>
          )}
        </div>
        <Awaited what="the ledger" of={list} />
        {rows?.length === 0 && (
          <Empty title={isFiltered ? "No entry fits" : "Nothing has happened yet"}>
            {isFiltered
              ? "Clear the search or the filters."
              : "Whatever is registered, sent, signed or released is recorded here."}
          </Empty>
        )}
        {rows && rows.length > 0 && (
          <FoldingTable
            listing={listing}
            rows={rows}
            isOld={list.isPlaceholderData}
            nameOf={(e) => `entry ${e.sequence} of ${e.subjectNumber || e.subjectTitle}`}
          >
            {(e) => <Entry e={e} onOnly={() => listing.set({ chain: e.chain })} isOnly={listing.get("chain") !== ""} />}
          </FoldingTable>
        )}
        <ShowMore list={list} />
      </main>
    </>
  );
}

/** The newest seal over the ledger: what proves later that nothing until then was taken away. */
function SealWords() {
  const { data } = useQuery({ queryKey: ["ledger", "seal"], queryFn: () => api.get("/ledger/seal") });
  const seal = data?.newest;
  return seal ? (
    <span title={`Hash of the seal: ${seal.hash}`}>
      Sealed {when(seal.at)} · seal {seal.number} <span className="font-mono text-sm">{seal.hash.slice(0, 12)}</span>
      {!seal.isSigned && ", not signed"}
    </span>
  ) : (
    data && "Not sealed yet"
  );
}

/** A day in the list's address. */
function Day<Row>({ listing, name, words }: { listing: Listing<Row>; name: string; words: string }) {
  return (
    <label className="flex items-center gap-1.5 text-soft">
      {words}
      <DateField
        className={`!w-40 ${listing.get(name) ? "font-medium" : ""}`}
        // An address may name what is no day.
        value={dayFrom(listing.get(name)) ?? ""}
        onChange={(day) => listing.set({ [name]: day })}
      />
    </label>
  );
}
