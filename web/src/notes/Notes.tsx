import { Link } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { useMe } from "../session/me";
import type { ListedNote } from "../api/types";
import { kindFill } from "./kinds";
import { FoldingTable } from "../lists/FoldingTable";
import { useListing, usePages, type Column } from "../lists/listing";
import { SearchBox } from "../lists/SearchBox";
import { Choice, Filter, ListTools, ShowMore } from "../lists/Tools";
import { Awaited } from "../ui/Awaited";
import { Button, Empty } from "../ui/kit";
import { usePeople } from "../ui/people";
import { exactlyThere, when } from "../ui/time";
import { notesAsked, notesList, standingIn, standings } from "./notesList";
import { TermsLine } from "./TermsLine";
import { Thread } from "./Thread";
import { answers, placeOf, waitsWords } from "./words";

const filters = ["whose", "kind", "person", "search", "document", "package"] as const;
/** What stands in the address, and what the server is asked for; without any, what is not settled. */

const looks = {
  open: "font-semibold text-rust",
  answered: "font-semibold",
  closed: "text-soft",
  withdrawn: "text-soft line-through",
  carriedOver: "text-soft",
} as const;

const columnsOf = (me: string): readonly Column<ListedNote>[] => [
  {
    name: "note",
    title: "Request",
    usual: true,
    fixed: true,
    look: "w-full max-w-0 min-w-64 py-2",
    cell: (n) => (
      <Link to={`/packages/${n.package}?note=${n.number}`} className="group flex gap-2.5">
        <span
          className={`h-5 min-w-6 shrink-0 rounded-[3px] px-1 text-center font-narrow text-xs leading-5 font-semibold text-on ${kindFill[n.kind]}`}
        >
          {n.number}
        </span>
        <span className="min-w-0">
          <span className="line-clamp-2 break-words group-hover:underline" title={n.body}>
            {n.body}
          </span>
          <span className="block truncate font-mono text-sm text-soft">
            {n.packageNumber} · round {n.round}
          </span>
        </span>
      </Link>
    ),
  },
  {
    name: "document",
    title: "Document",
    sorts: "up",
    usual: true,
    look: "font-mono text-sm whitespace-nowrap",
    cell: (n) => (
      <>
        <Link to={`/register/${n.document}`} className="block hover:underline" title={n.documentTitle}>
          {n.documentNumber}
        </Link>
        <span className="block text-soft">{placeOf(n)}</span>
      </>
    ),
  },
  {
    name: "title",
    title: "Document's title",
    usual: false,
    look: "max-w-48 truncate",
    cell: (n) => <span title={n.documentTitle}>{n.documentTitle}</span>,
  },
  {
    name: "by",
    title: "Asked by",
    usual: true,
    look: "max-w-44 truncate",
    cell: (n) => (n.author === me ? "you" : n.authorName),
  },
  {
    name: "asked",
    title: "Asked",
    sorts: "down",
    usual: true,
    look: "whitespace-nowrap",
    cell: (n) => <span title={exactlyThere(n.at)}>{when(n.at)}</span>,
  },
  {
    name: "of",
    title: "Asked of",
    usual: false,
    look: "max-w-44 truncate",
    cell: (n) => (n.originator === me ? "you" : n.originatorName),
  },
  {
    name: "standing",
    title: "Standing",
    usual: true,
    look: "whitespace-nowrap",
    cell: (n) => (
      <>
        <span className={looks[n.standing]}>{n.standing}</span>
        {n.answer && n.standing !== "open" && <span className="block text-sm text-soft">{answers[n.answer]}</span>}
      </>
    ),
  },
  {
    name: "waits",
    title: "Waits for",
    usual: true,
    look: "max-w-44 truncate",
    cell: (n) => {
      const words = waitsWords(n, me);
      return words === "you" ? (
        <b className="font-semibold">you</b>
      ) : (
        (words ?? <span className="text-soft">nobody</span>)
      );
    },
  },
  {
    name: "due",
    title: "Wanted by",
    usual: true,
    look: "whitespace-nowrap",
    cell: (n) => <TermsLine terms={{ ...n.terms, tags: [], onPackage: false }} presses={n.presses} />,
  },
  {
    name: "tags",
    title: "Tags",
    usual: false,
    look: "max-w-44",
    cell: (n) => <TermsLine terms={{ ...n.terms, urgent: false, due: null }} presses={false} />,
  },
  {
    name: "words",
    title: "Last words",
    usual: false,
    look: "max-w-56 truncate",
    cell: (n) => n.acts.findLast((a) => a.body !== "")?.body,
  },
  {
    name: "package",
    title: "Package",
    usual: false,
    look: "max-w-48 truncate",
    cell: (n) => <span title={n.packageTitle}>{n.packageTitle}</span>,
  },
];

/** What was asked for in every package and is not settled, or was: the changes, the questions, the remarks. */
export function Notes() {
  const me = useMe();
  const people = usePeople();
  const columns = columnsOf(me.id);
  const listing = useListing(columns, "-asked");
  const standing = standingIn(listing.get);
  const what = notesAsked(listing.get, me.id);
  const list = usePages(notesList(what));
  const rows = list.data;
  const isFiltered = filters.some((name) => listing.get(name) !== "");
  const wanted = listing.get("kind") || "request";
  const kind = wanted === "all" ? "note" : wanted;
  const inPackage = listing.get("package");
  return (
    <>
      <PlaceBar title="Notes" beside="Requests, questions and remarks, until they are settled">
        <SearchBox listing={listing} label="Find a note" hint="Words, document, package" />
        <ListTools listing={listing} list="notes" columns={columns} csv="/api/notes.csv" what={what} />
      </PlaceBar>
      <main className="flex-1 overflow-y-auto">
        <div className="flex flex-wrap items-center gap-3 border-b border-rule px-6 py-2">
          <Choice
            listing={listing}
            name="standing"
            label="Standing"
            values={standings.map(([value, words]) => [value, words])}
          />
          <Choice
            listing={listing}
            name="whose"
            label="Whose"
            values={[
              ["", "everybody's"],
              ["asked", "I asked"],
              ["mine", "asked of me"],
            ]}
          />
          <Filter
            listing={listing}
            name="kind"
            label="Kind"
            any="requests"
            width="!w-32"
            values={[
              ["question", "questions"],
              ["remark", "remarks"],
              ["all", "all kinds"],
            ]}
          />
          <Filter
            listing={listing}
            name="person"
            label="Person"
            any="by or of anyone"
            width="!w-48"
            values={[...people.values()].map((p) => [p.id, p.name])}
          />
          {inPackage && (
            <Link to={`/packages/${inPackage}`} className="underline">
              {rows?.[0] ? `Of ${rows[0].packageNumber} ${rows[0].packageTitle}` : "Of one package"}
            </Link>
          )}
          {isFiltered && (
            <Button look="quiet" onClick={() => listing.clear(filters)}>
              Clear the filters
            </Button>
          )}
        </div>
        <Awaited what="the notes" of={list} />
        {rows?.length === 0 &&
          (isFiltered ? (
            <Empty title={`No ${kind} fits`}>Choose another standing, or clear the search and the filters.</Empty>
          ) : standing[0] === "" ? (
            <Empty title="Everything asked for is settled">
              A request is written on the bench: draw a cloud or an arrow on the sheet and say what must change.
            </Empty>
          ) : (
            <Empty title={`No ${kind} stands there`}>Choose another standing.</Empty>
          ))}
        {rows && rows.length > 0 && (
          <FoldingTable
            listing={listing}
            rows={rows}
            isOld={list.isPlaceholderData}
            nameOf={(n) => `${n.kind} ${n.number} of ${n.packageNumber}`}
          >
            {(n) => <Thread n={n} />}
          </FoldingTable>
        )}
        <ShowMore list={list} />
      </main>
    </>
  );
}
