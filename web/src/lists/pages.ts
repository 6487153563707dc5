import { infiniteQueryOptions } from "@tanstack/react-query";

type Page<Row> = { rows: Row[]; next: string | null };

/** A list, to be asked for page by page: where it is shown, and ahead of that. */
export const pagesOf = <Row>(queryKey: readonly unknown[], fetch: (after: string) => Promise<Page<Row>>) =>
  infiniteQueryOptions({
    queryKey,
    queryFn: ({ pageParam }: { pageParam: string }) => fetch(pageParam),
    initialPageParam: "",
    getNextPageParam: (last: Page<Row>) => last.next ?? undefined,
    meta: { saysItself: true },
  });

/** Gives a value of a list's address; empty where it has none. */
export type Get = (name: string) => string;

/** The values of some names in a list's address, for the server. */
export const picked = <Name extends string>(get: Get, ...names: readonly Name[]) =>
  Object.fromEntries(names.map((name) => [name, get(name)])) as Record<Name, string>;
