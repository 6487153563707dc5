import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import type { Hit } from "./drawing";
import { degreesWords, lengthWords, type FactLine } from "./exact";

/** What is said of how two picked things lie to one another; null while fewer are picked. */
export type BetweenSaid = { of: string; lines: FactLine[]; sureness: string };

const askedOf = ({ component, face, edge }: Hit) => ({ component, face: edge === null ? face : null, edge });

/** How two faces or edges lie to one another, as the server measures it on what they exactly are. */
export function useBetween(
  draft: string,
  position: number,
  first: Hit | null,
  second: Hit | null,
  unit: string,
): BetweenSaid | null {
  const isAsked = first !== null && second !== null;
  const asked = isAsked ? { first: askedOf(first), second: askedOf(second) } : null;
  const { data, error } = useQuery({
    queryKey: ["between", draft, position, asked],
    queryFn: () => api.post(`/drafts/${draft}/leaves/${position}/between`, asked!),
    enabled: isAsked,
    staleTime: Infinity,
    retry: false,
    meta: { saysItself: true },
  });
  if (!isAsked) return null;
  if (error) return { of: error.message, lines: [], sureness: "" };
  if (!data) return { of: "Measuring …", lines: [], sureness: "" };
  const { angle, isParallel, distance, along, of, isRecognised } = data;
  return {
    of,
    sureness: isRecognised ? "recognised within 0.0001 mm" : "exact",
    lines: [
      ...(distance === null ? [] : [{ words: "Distance", value: lengthWords(distance, unit) }]),
      ...(along
        ? ["x", "y", "z"].map((axis, k) => ({ words: `along ${axis}`, value: lengthWords(along[k]!, unit) }))
        : []),
      ...(angle === null ? [] : [{ words: "Angle", value: isParallel ? "parallel" : degreesWords(angle) }]),
    ],
  };
}
