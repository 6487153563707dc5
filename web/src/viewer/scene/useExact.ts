import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import type { SceneLeaf } from "../../api/types";

/** What is exactly known of a model's faces and edges; undefined until it is asked for and there. */
export function useExact(draft: string, { position, prepared }: SceneLeaf, isAsked: boolean) {
  const { data } = useQuery({
    queryKey: ["exact", draft, position, prepared],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${position}/exact`, { prepared: String(prepared) }),
    staleTime: Infinity,
    enabled: isAsked,
    meta: { saysItself: true },
  });
  return data;
}
