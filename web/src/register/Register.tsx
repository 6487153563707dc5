import { useQuery } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { Link, useLocation, useNavigate, useParams } from "react-router";
import { MarkedSign } from "../ui/MarkedSign";
import { PlaceBar } from "../ui/PlaceBar";
import { Awaited } from "../ui/Awaited";
import { useMe } from "../session/me";
import { api } from "../api/client";
import type { DocumentRow } from "../api/types";
import { useListing, usePages, type Column } from "../lists/listing";
import { SearchBox } from "../lists/SearchBox";
import { ColumnHead, Filter, ListTools, ShowMore } from "../lists/Tools";
import { Button, Empty, StandingTag } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { usePeople } from "../ui/people";
import { exactlyThere, when } from "../ui/time";
import { ArrivalTable } from "./ArrivalTable";
import { documentFilters, documentsAsked, documentsList } from "./documentsList";
import { Arrivals, filesOf } from "../upload/arriving";
import { DocumentSide } from "./DocumentSide";
import { FindOnSheets } from "./FindOnSheets";
import { FolderTree } from "../ui/FolderTree";
import { useLeaving } from "../ui/useLeaving";
import { ManyBar } from "./ManyBar";
import { UploadForm } from "../upload/UploadForm";
import { useAskedFor } from "./useAskedFor";

const standings = ["in work", "in review", "returned", "released", "superseded", "withdrawn"] as const;
const kinds = ["drawing", "model", "supporting file"] as const;

/** The register's columns; a document opens beside the list as it stands. */
const columnsOf = (search: string): readonly Column<DocumentRow>[] => [
  {
    name: "number",
    title: "Number",
    sorts: "up",
    usual: true,
    fixed: true,
    look: "font-mono text-sm whitespace-nowrap",
    cell: (d) => (
      <span className="flex items-center gap-1.5">
        <Link className="hover:underline" to={{ pathname: `/register/${d.id}`, search }}>
          {d.number}
        </Link>
        {d.markedIn && <MarkedSign of={d.number} package={d.markedIn} document={d.id} />}
      </span>
    ),
  },
  {
    name: "title",
    title: "Title",
    sorts: "up",
    usual: true,
    fixed: true,
    look: "w-full max-w-0 min-w-44",
    cell: (d) => (
      <Link
        className="block truncate font-medium hover:underline"
        to={{ pathname: `/register/${d.id}`, search }}
        tabIndex={-1}
        title={d.title}
      >
        {d.title}
      </Link>
    ),
  },
  {
    name: "picture",
    title: "Picture",
    usual: false,
    isShownOnly: true,
    look: "min-w-20 py-1",
    cell: (d) => (
      <img
        loading="lazy"
        src={`/api/drafts/${d.draft}/leaves/0/small`}
        alt=""
        className="h-9 w-14 border border-rule bg-paper object-contain"
      />
    ),
  },
  { name: "kind", title: "Kind", sorts: "up", usual: false, look: "whitespace-nowrap", cell: (d) => d.kind },
  {
    name: "discipline",
    title: "Discipline",
    sorts: "up",
    usual: "alone",
    look: "max-w-40 truncate",
    cell: (d) => d.discipline,
  },
  {
    name: "folder",
    title: "Folder",
    sorts: "up",
    usual: false,
    look: "max-w-56 truncate",
    cell: (d) => <span title={d.folder}>{d.folder || "the register"}</span>,
  },
  {
    name: "revision",
    title: "Revision",
    usual: true,
    look: "font-mono text-sm whitespace-nowrap",
    cell: (d) => (
      <>
        {d.revision}
        <span className="text-soft">.{d.ordinal}</span>
      </>
    ),
  },
  {
    name: "standing",
    title: "Standing",
    sorts: "up",
    usual: true,
    cell: (d) => <StandingTag standing={d.standing === "in work" && d.stage ? d.stage : d.standing} />,
  },
  {
    name: "originator",
    title: "Originator",
    sorts: "up",
    usual: "alone",
    look: "max-w-48 truncate",
    cell: (d) => d.originatorName,
  },
  {
    name: "changed",
    title: "Changed",
    sorts: "down",
    usual: true,
    look: "whitespace-nowrap text-soft",
    cell: (d) => <span title={exactlyThere(d.changedAt)}>{when(d.changedAt)}</span>,
  },
];

export function Register() {
  const me = useMe();
  const people = usePeople();
  const { id } = useParams();
  const { search } = useLocation();
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  const [finding, setFinding] = useState(false);
  const [picked, setPicked] = useState<readonly string[]>([]);
  const [arrivals] = useState(() => new Arrivals());
  const arriving = useSyncExternalStore(arrivals.subscribe, arrivals.now);
  const [isOver, setOver] = useState(false);
  useEffect(() => () => arrivals.stopAll(), [arrivals]);
  // Files on their way are lost with the page: leaving it asks.
  const isBusy = arriving.length > 0;
  useLeaving(isBusy);
  const take = (files: readonly File[]) => {
    setAdding(false);
    arrivals.add(files, "");
  };
  const columns = columnsOf(search);
  const listing = useListing(columns, "number", id === undefined);
  const what = documentsAsked(listing.get);
  const isFiltered = documentFilters.some((name) => listing.get(name) !== "");
  const list = usePages(documentsList(what));
  const { data: disciplines } = useQuery({
    queryKey: ["documents", "disciplines"],
    queryFn: () => api.get("/disciplines"),
  });
  const { data, hasNextPage } = list;
  const rows = data ?? [];
  const askedFor = useAskedFor();
  const pickedRows = [
    ...askedFor.rows,
    ...rows.filter((d) => picked.includes(d.id) && !askedFor.rows.some((a) => a.id === d.id)),
  ];
  return (
    <>
      <PlaceBar
        title="Register"
        beside={data && (rows.length === 1 ? "1 document" : `${rows.length}${hasNextPage ? "+" : ""} documents`)}
      >
        <SearchBox listing={listing} label="Find in the register" hint="Number, title or person" />
        <Button onClick={() => setFinding(true)}>Find on sheets</Button>
        <ListTools listing={listing} list="register" columns={columns} csv="/api/documents.csv" what={what} />
        {me.canSend && (
          <Button look="main" onClick={() => setAdding(true)}>
            Register a document
          </Button>
        )}
      </PlaceBar>
      <FindOnSheets open={finding} onClose={() => setFinding(false)} />
      <main
        className="relative flex min-h-0 flex-1"
        onDragOver={(e) => {
          if (!me.canSend || !e.dataTransfer.types.includes("Files")) return;
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={(e) => {
          if (!e.currentTarget.contains(e.relatedTarget as Node | null)) setOver(false);
        }}
        onDrop={(e) => {
          if (!me.canSend) return;
          e.preventDefault();
          setOver(false);
          void filesOf(e.dataTransfer).then((files) => files.length > 0 && take(files));
        }}
      >
        {isOver && (
          <p className="pointer-events-none absolute inset-2 z-40 grid place-items-center border-2 border-dashed border-spruce bg-spruce-soft/90 text-lg font-medium">
            Let go to register {listing.get("folder") ? `in ${listing.get("folder")}` : "here"}: files or whole folders
          </p>
        )}
        <FolderTree
          picked={listing.get("folder")}
          onPick={(folder) => {
            listing.set({ folder });
            setPicked([]);
          }}
        />
        {isBusy ? (
          <ArrivalTable arrivals={arrivals} folder={listing.get("folder")} onDone={() => arrivals.stopAll()} />
        ) : (
          <div className="min-w-0 flex-1 overflow-auto" tabIndex={-1}>
            <div className="flex flex-wrap gap-2 border-b border-rule px-3 py-2">
              <Filter
                listing={listing}
                name="standing"
                label="Standing"
                any="every standing"
                width="!w-32"
                values={standings.map((s) => [s, s])}
              />
              <Filter
                listing={listing}
                name="discipline"
                label="Discipline"
                any="every discipline"
                width="!w-36"
                values={(disciplines ?? []).map((d) => [d, d])}
              />
              <Filter
                listing={listing}
                name="kind"
                label="Kind"
                any="every kind"
                width="!w-32"
                values={kinds.map((k) => [k, k])}
              />
              <Filter
                listing={listing}
                name="originator"
                label="Originator"
                any="every originator"
                width="!w-40"
                values={[...people.values()].map((p) => [p.id, p.name])}
              />
              {isFiltered && (
                <Button look="quiet" onClick={() => listing.clear(documentFilters)}>
                  Clear the filters
                </Button>
              )}
            </div>
            <ManyBar
              picked={pickedRows}
              onClear={() => {
                setPicked([]);
                askedFor.clear();
              }}
            />
            <Awaited what="the register" of={list} />
            {data && rows.length === 0 && (
              <Empty title={isFiltered ? "No document fits" : "Nothing is filed here"}>
                {isFiltered
                  ? "Look for a part of a number, a title or a name, or take a filter away."
                  : "Register a document by uploading its first draft."}
              </Empty>
            )}
            {rows.length > 0 && (
              <table aria-busy={list.isPlaceholderData} className="w-full border-collapse aria-busy:cursor-progress">
                <thead>
                  <tr
                    className={`sticky z-10 bg-ground text-left shadow-[0_1px_0_var(--color-rule)] ${pickedRows.length > 0 ? "top-[45px]" : "top-0"}`}
                  >
                    <th scope="col" className="w-8 pl-3">
                      <input
                        type="checkbox"
                        className="accent-spruce"
                        aria-label="Pick all shown"
                        checked={picked.length > 0 && rows.every((d) => picked.includes(d.id))}
                        onChange={(e) => setPicked(e.target.checked ? rows.map((d) => d.id) : [])}
                      />
                    </th>
                    {listing.columns.map((c) => (
                      <ColumnHead key={c.name} column={c} listing={listing} />
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {rows.map((d) => (
                    <tr
                      key={d.id}
                      aria-selected={d.id === id}
                      className={`h-8 border-b border-rule ${d.id === id ? "bg-picked" : "hover:bg-hover"}`}
                    >
                      <td className="pl-3">
                        <input
                          type="checkbox"
                          className="accent-spruce"
                          aria-label={`Pick ${d.number}`}
                          checked={picked.includes(d.id)}
                          onChange={() =>
                            setPicked(picked.includes(d.id) ? picked.filter((x) => x !== d.id) : [...picked, d.id])
                          }
                        />
                      </td>
                      {listing.columns.map((c) => (
                        <td key={c.name} className={`px-3 ${c.look ?? ""}`}>
                          {c.cell(d)}
                        </td>
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            <ShowMore list={list} />
          </div>
        )}
        {id && <DocumentSide key={id} id={id} onClose={() => void navigate({ pathname: "/register", search })} />}
      </main>
      <SideSheet title="Register a document" open={adding} onClose={() => setAdding(false)}>
        <UploadForm
          folder={listing.get("folder")}
          onMany={take}
          onDone={(document) => {
            setAdding(false);
            void navigate(`/register/${document}`);
          }}
        />
      </SideSheet>
    </>
  );
}
