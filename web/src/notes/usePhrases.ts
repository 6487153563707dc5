import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import type { PackageView, Phrase } from "../api/types";
import { usePeople } from "../ui/people";

const none: readonly Phrase[] = [];

const phrasesQuery = { queryKey: ["phrases"], queryFn: () => api.get("/phrases"), staleTime: 300_000 };

/** One's own frequent wordings and the office's, as far as they are there. */
export const usePhrases = (): readonly Phrase[] => useQuery(phrasesQuery).data ?? none;

/** The same, to be changed: where they could not be fetched, it is said. */
export const useKeptPhrases = () => useQuery({ ...phrasesQuery, meta: { saysItself: true } });

/** Who takes part in a package and may be named in its notes. */
export function usePartners(p: PackageView): { id: string; name: string }[] {
  const people = usePeople();
  const ids = new Set([p.originator, ...p.slip.seats.flatMap((s) => s.people), ...p.informed]);
  return [...ids].flatMap((id) => people.get(id) ?? []).map(({ id, name }) => ({ id, name }));
}
