import { queryOptions, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api } from "../api/client";
import type { Person } from "../api/types";

export const peopleQuery = queryOptions({
  queryKey: ["people"],
  queryFn: () => api.get("/people"),
  staleTime: 300_000,
});

/** Everyone, by id; who shares a name is told apart. */
export function usePeople(): ReadonlyMap<string, Person> {
  const { data } = useQuery(peopleQuery);
  return useMemo(() => new Map(toldApart(data ?? []).map((p) => [p.id, p])), [data]);
}

/** People as they are chosen from: behind a name that another has too stands how they sign in. */
export function toldApart(people: readonly Person[]): Person[] {
  const count = new Map<string, number>();
  for (const { name } of people) count.set(name, (count.get(name) ?? 0) + 1);
  return people.map((p) => (count.get(p.name)! > 1 ? { ...p, name: `${p.name} (${p.login})` } : p));
}
