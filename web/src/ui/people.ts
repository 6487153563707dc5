import { queryOptions, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api } from "../api/client";
import type { Person } from "../api/types";

export const peopleQuery = queryOptions({
  queryKey: ["people"],
  queryFn: () => api.get("/people"),
  staleTime: 300_000,
});

/** Everyone, by id. */
export function usePeople(): ReadonlyMap<string, Person> {
  const { data } = useQuery(peopleQuery);
  return useMemo(() => new Map((data ?? []).map((p) => [p.id, p])), [data]);
}
