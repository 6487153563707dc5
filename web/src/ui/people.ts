import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api } from "../api/client";
import type { Person } from "../api/types";

/** Everyone, by id. */
export function usePeople(): ReadonlyMap<string, Person> {
  const { data } = useQuery({ queryKey: ["people"], queryFn: () => api.get("/people"), staleTime: 300_000 });
  return useMemo(() => new Map((data ?? []).map((p) => [p.id, p])), [data]);
}
