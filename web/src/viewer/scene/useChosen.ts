import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api } from "../../api/client";
import { useAct } from "../../api/useAct";

/** Which of a model's dimensions are shown when it is opened, as it was chosen before the draft was sent. */
export function useChosen(draft: string, position: number, isAsked: boolean) {
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: ["sheets", draft, "stated", position],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${position}/stated`),
    enabled: isAsked,
    staleTime: 60_000,
    meta: { saysItself: true },
  });
  const choosing = useAct(async (key, shown: readonly number[]) => {
    await api.put(`/drafts/${draft}/leaves/${position}/stated`, { key, shown: [...shown] });
    await queries.invalidateQueries({ queryKey: ["sheets", draft, "stated"] });
  });
  return { data, choosing };
}
