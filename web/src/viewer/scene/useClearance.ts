import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import { lengthWords, type FactLine } from "./exact";
import type { V3 } from "./eye";

/** How near two picked components come; null while not two are picked. */
export type ClearanceSaid = { of: string; lines: FactLine[]; sureness: string; between: readonly [V3, V3] | null };

/** How near two components come to one another, as the server measures it on their meshes. */
export function useClearance(
  draft: string,
  position: number,
  two: readonly [number, number] | null,
  unit: string,
): ClearanceSaid | null {
  const { data, error } = useQuery({
    queryKey: ["clearance", draft, position, two],
    queryFn: () => api.post(`/drafts/${draft}/leaves/${position}/clearance`, { first: two![0], second: two![1] }),
    enabled: two !== null,
    staleTime: Infinity,
    retry: false,
    meta: { saysItself: true },
  });
  if (!two) return null;
  if (error) return { of: error.message, lines: [], sureness: "", between: null };
  if (!data) return { of: "Measuring …", lines: [], sureness: "", between: null };
  const { distance, from, to, deviation, isAtMost } = data;
  if (distance === 0) return { of: "They touch or overlap", lines: [], sureness: "on the mesh", between: null };
  const way = [to.x - from.x, to.y - from.y, to.z - from.z];
  return {
    of: "Clearance",
    lines: [
      { words: isAtMost ? "Least distance, at most" : "Least distance", value: lengthWords(distance, unit, deviation) },
      ...["x", "y", "z"].map((axis, k) => ({ words: `along ${axis}`, value: lengthWords(way[k]!, unit, deviation) })),
    ],
    sureness: deviation > 0 ? `on the mesh, ± ${lengthWords(deviation, unit, deviation / 10)}` : "on the mesh",
    between: [
      [from.x, from.y, from.z],
      [to.x, to.y, to.z],
    ],
  };
}
