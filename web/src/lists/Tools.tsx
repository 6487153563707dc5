import { ArrowDown, ArrowUp, Columns3, Download } from "lucide-react";
import type { ReactNode } from "react";
import { addressOf } from "../api/client";
import { Button, Tick } from "../ui/kit";
import { clockZone } from "../ui/time";
import type { Column, Listing } from "./listing";
import { trigger } from "./looks";
import { ToolPopover } from "./ToolPopover";
import { Views } from "./Views";
import type { ListName } from "./viewsQuery";

/** What can be done with any list: views kept and shown, columns chosen, the whole of it as a file. */
export function ListTools<Row>({
  listing,
  list,
  columns,
  csv,
  what,
}: {
  listing: Listing<Row>;
  list: ListName;
  columns: readonly Column<Row>[];
  /** The file's address, and which rows it is to hold in which order. */
  csv: string;
  what: Readonly<Record<string, string>>;
}) {
  const chosen = listing.hasChosen
    ? ["number", ...listing.columns.filter((c) => !c.isShownOnly).map((c) => c.name)]
    : [];
  return (
    <>
      <Views listing={listing} list={list} />
      <ToolPopover
        label="Columns"
        look="w-52 p-3"
        button={
          <>
            <Columns3 size={15} /> Columns
          </>
        }
      >
        {columns.map((c) => (
          <Tick
            key={c.name}
            words={c.title}
            disabled={c.fixed}
            on={listing.columns.includes(c)}
            set={(on) => listing.choose(c.name, on)}
          />
        ))}
        <div className="-mx-3 mt-2 border-t border-rule px-3 pt-2">
          <Button look="quiet" disabled={!listing.hasChosen} onClick={() => listing.set({ columns: "" })}>
            The usual ones
          </Button>
        </div>
      </ToolPopover>
      <FileLink path={csv} what={what} columns={[...new Set(chosen)]} />
    </>
  );
}

/** The whole of a list as a file, its times in the reader's zone. */
export function FileLink({
  path,
  what,
  columns = [],
}: {
  path: string;
  what: Readonly<Record<string, string>>;
  columns?: readonly string[];
}) {
  const zone = clockZone();
  return (
    <a
      className={trigger}
      href={addressOf(path, { ...what, columns: columns.join(","), zone })}
      download
      title="Everything that fits, not only what is shown here"
    >
      <Download size={15} /> CSV
    </a>
  );
}

/** The head of a column: pressing it sorts by it, pressing again turns the order round. */
export function ColumnHead<Row>({ column, listing }: { column: Column<Row>; listing: Listing<Row> }) {
  if (!column.sorts)
    return (
      <th scope="col" className="label px-3 py-2 whitespace-nowrap">
        {column.title}
      </th>
    );
  const sorted = listing.sortedBy(column);
  return (
    <th scope="col" aria-sort={sorted} className="label px-3 py-1 whitespace-nowrap">
      <button
        type="button"
        className="-mx-1 inline-flex min-h-6 items-center gap-1 rounded px-1 hover:bg-picked hover:text-ink"
        onClick={() => listing.sortBy(column)}
      >
        <span className={`label ${sorted === "none" ? "" : "text-ink"}`}>{column.title}</span>
        {sorted === "ascending" && <ArrowUp size={13} aria-hidden className="text-ink" />}
        {sorted === "descending" && <ArrowDown size={13} aria-hidden className="text-ink" />}
      </button>
    </th>
  );
}

/** A filter: one of some values, or any. */
export function Filter<Row>({
  listing,
  name,
  label,
  any,
  values,
  width = "!w-40",
  also,
}: {
  listing: Listing<Row>;
  name: string;
  label: string;
  any: string;
  values: readonly (readonly [value: string, words: ReactNode])[];
  width?: string;
  /** What else changes with it. */
  also?: Readonly<Record<string, string>>;
}) {
  return (
    <select
      className={`field ${width} ${listing.get(name) ? "!border-ink font-medium" : ""}`}
      aria-label={label}
      value={listing.get(name)}
      onChange={(e) => listing.set({ ...also, [name]: e.target.value })}
    >
      <option value="">{any}</option>
      {values.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** A filter whose few values all stand side by side; the one of the empty word is the usual one. */
export function Choice<Row>({
  listing,
  name,
  label,
  values,
}: {
  listing: Listing<Row>;
  name: string;
  label: string;
  values: readonly (readonly [value: string, words: string])[];
}) {
  const now = listing.get(name);
  return (
    <div role="radiogroup" aria-label={label} className="flex border border-ink">
      {values.map(([value, words]) => (
        <button
          key={value}
          type="button"
          role="radio"
          aria-checked={now === value}
          className={`border-l border-ink px-3 py-1 whitespace-nowrap first:border-l-0 ${now === value ? "bg-ink text-raised" : "hover:bg-picked"}`}
          onClick={() => listing.set({ [name]: value })}
        >
          {words}
        </button>
      ))}
    </div>
  );
}

/** The next page of a list, when there is one. */
export function ShowMore({
  list,
}: {
  list: { hasNextPage: boolean; isFetching: boolean; fetchNextPage: () => Promise<unknown> };
}) {
  return list.hasNextPage ? (
    <div className="p-4 text-center">
      <Button disabled={list.isFetching} onClick={() => void list.fetchNextPage()}>
        Show more
      </Button>
    </div>
  ) : null;
}
