import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import type { ModelSpot } from "../../api/types";
import type { FactLine } from "./exact";
import { betweenSaid, type Ends } from "./measured";

/** What is said of how two picked things lie to one another; null while fewer are picked. */
export type BetweenSaid = { of: string; lines: readonly FactLine[]; sureness: string; ends: Ends | null };

export const pickedOf = ({ component, face, edge, at, normal, isCorner, isPoint }: ModelSpot) => ({
  ...{ component, face, edge, at, normal },
  isCorner: isCorner ?? false,
  isPoint: isPoint ?? false,
});

/** How two things lie to one another, as the server measures it on what they exactly are and on their meshes. */
export function useBetween(
  draft: string,
  position: number,
  two: readonly ModelSpot[] | null,
  unit: string,
): BetweenSaid | null {
  const asked = two && { first: pickedOf(two[0]!), second: pickedOf(two[1]!) };
  const { data, error } = useQuery({
    queryKey: ["between", draft, position, asked],
    queryFn: () => api.post(`/drafts/${draft}/leaves/${position}/between`, asked!),
    enabled: asked !== null,
    staleTime: Infinity,
    retry: false,
    meta: { saysItself: true },
  });
  if (!asked) return null;
  if (error) return { of: error.message, lines: [], sureness: "", ends: null };
  if (!data) return { of: "Measuring …", lines: [], sureness: "", ends: null };
  return betweenSaid(data, unit);
}
