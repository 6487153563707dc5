import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";

/** The sizes of the smallest box about a part, as the server finds it; not known until then. */
export function useTurnedBox(draft: string, position: number, part: number | null): readonly number[] | undefined {
  const { data } = useQuery({
    queryKey: ["box", draft, position, part],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${position}/parts/${part!}/box`),
    enabled: part !== null,
    staleTime: Infinity,
    retry: false,
    meta: { saysItself: true },
  });
  return data?.sizes;
}
