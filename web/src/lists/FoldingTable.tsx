import { ChevronDown, ChevronRight } from "lucide-react";
import { Fragment, type ReactNode } from "react";
import type { Listing } from "./listing";
import { useAddress } from "./useAddress";
import { ColumnHead } from "./Tools";

/** A list as a table whose rows open to show more of what they are. */
export function FoldingTable<Row extends { id: string }>({
  listing,
  rows,
  isOld,
  nameOf,
  children,
}: {
  listing: Listing<Row>;
  rows: readonly Row[];
  /** Whether these rows answer what was asked before, and the new ones are on their way. */
  isOld: boolean;
  nameOf: (row: Row) => string;
  children: (row: Row) => ReactNode;
}) {
  const [opened, setOpened] = useAddress("open");
  return (
    <table aria-busy={isOld} className="w-full border-collapse text-left aria-busy:cursor-progress">
      <thead>
        <tr className="border-b border-rule">
          <th>
            <span className="sr-only">Open</span>
          </th>
          {listing.columns.map((c) => (
            <ColumnHead key={c.name} column={c} listing={listing} />
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => {
          const isOpen = opened === r.id;
          return (
            <Fragment key={r.id}>
              <tr className={`border-b border-rule ${isOpen ? "bg-picked" : "hover:bg-hover"}`}>
                <td className="min-w-12 pl-4">
                  <button
                    type="button"
                    aria-expanded={isOpen}
                    aria-label={`${isOpen ? "Close" : "Open"} ${nameOf(r)}`}
                    className="rounded p-1 hover:bg-lit"
                    onClick={() => setOpened(isOpen ? null : r.id)}
                  >
                    {isOpen ? <ChevronDown size={15} /> : <ChevronRight size={15} />}
                  </button>
                </td>
                {listing.columns.map((c) => (
                  <td key={c.name} className={`px-3 ${c.look ?? ""}`}>
                    {c.cell(r)}
                  </td>
                ))}
              </tr>
              {isOpen && (
                <tr className="border-b border-rule bg-raised">
                  <td colSpan={listing.columns.length + 1} className="px-6 py-4">
                    {children(r)}
                  </td>
                </tr>
              )}
            </Fragment>
          );
        })}
      </tbody>
    </table>
  );
}
