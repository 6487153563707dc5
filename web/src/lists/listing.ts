import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { useSearchParams } from "react-router";
import type { pagesOf } from "./pages";

/** A column of a list. */
export type Column<Row> = {
  /** Its name in addresses. */
  name: string;
  title: string;
  /** Which way it is sorted when first asked for; left out when the list is not sorted by it. */
  sorts?: "up" | "down";
  /** Shown while nobody has chosen columns: always, or only where nothing stands beside the list. */
  usual: boolean | "alone";
  /** Cannot be taken away. */
  fixed?: boolean;
  /** Left out of files. */
  isShownOnly?: boolean;
  /** How its cells are set. */
  look?: string;
  cell: (row: Row) => ReactNode;
};

/** What a view keeps of an address: the list, not which of its rows is open. */
function queryOf(params: URLSearchParams): string {
  const kept = new URLSearchParams(params);
  kept.delete("open");
  return kept.toString();
}

/**
 * A list's filters, order and columns as they stand in the page's address: a link, the browser's way back and a saved view
 * each are the list as somebody saw it.
 */
export function useListing<Row>(all: readonly Column<Row>[], usualSort: string, isAlone = true) {
  const [params, setParams] = useSearchParams();
  const isOrder = (sort: string) => all.some((c) => c.sorts && c.name === sort.replace(/^-/, ""));
  // An order that this list has not, of another list's address or an older one, is no reason to show nothing.
  const get = (name: string) => {
    const value = params.get(name) ?? "";
    return name === "sort" && !isOrder(value) ? "" : value;
  };
  const set = (changes: Readonly<Record<string, string>>) =>
    setParams(
      (now) => {
        const next = new URLSearchParams(now);
        for (const [name, value] of Object.entries(changes))
          if (value === "") next.delete(name);
          else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  const chosen = get("columns") === "" ? null : get("columns").split(",");
  const sort = get("sort") || usualSort;
  return {
    get,
    set,
    /** Takes filters away; order and columns stay as they are. */
    clear: (names: readonly string[]) => set(Object.fromEntries(names.map((name) => [name, ""]))),
    /** Takes over a whole address, as a saved view does; the way back leads to the list as it was. */
    show: (query: string) => setParams(new URLSearchParams(query)),
    query: queryOf(params),
    columns: all.filter((c) => c.fixed || (chosen ? chosen.includes(c.name) : isAlone ? c.usual : c.usual === true)),
    hasChosen: chosen !== null,
    choose: (name: string, on: boolean) => {
      const next = all.filter((c) => (c.name === name ? on : chosen ? chosen.includes(c.name) : c.usual));
      const isUsual = isAlone && all.every((c) => c.fixed || next.includes(c) === (c.usual !== false));
      set({ columns: isUsual ? "" : next.map((c) => c.name).join(",") });
    },
    sort,
    sortedBy: (column: Column<Row>): "ascending" | "descending" | "none" =>
      sort === column.name ? "ascending" : sort === `-${column.name}` ? "descending" : "none",
    sortBy: (column: Column<Row>) => {
      const first = column.sorts === "down" ? `-${column.name}` : column.name;
      const next = sort === first ? (first.startsWith("-") ? column.name : `-${column.name}`) : first;
      set({ sort: next === usualSort ? "" : next });
    },
  };
}

export type Listing<Row> = ReturnType<typeof useListing<Row>>;

const allRows = <Row>(data: { pages: { rows: Row[] }[] }) => data.pages.flatMap((page) => page.rows);

/** A list page by page; what it showed stays until what is asked for now has come. */
export const usePages = <Row>(list: ReturnType<typeof pagesOf<Row>>) =>
  useInfiniteQuery({ ...list, placeholderData: keepPreviousData, select: allRows<Row> });

/** Whether every word typed stands somewhere in the texts, in any order, as the server searches its lists. */
export const isFound = (words: string, ...texts: readonly (string | undefined)[]): boolean => {
  const text = texts.join(" ").toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
};
