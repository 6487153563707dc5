import { useQueries } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { api } from "../api/client";
import type { DocumentRow } from "../api/types";

/** Most documents that are brought along from elsewhere. */
const MOST = 100;

/** Documents that another place sent here to be acted on, as its link names them: they are picked whether they are in the list or not. */
export function useAskedFor(): { rows: readonly DocumentRow[]; clear: () => void } {
  const [params, setParams] = useSearchParams();
  const ids = (params.get("among") ?? "").split(",").filter((id) => /^[0-9a-f-]{36}$/.test(id));
  const found = useQueries({
    queries: ids
      .slice(0, MOST)
      .map((id) => ({ queryKey: ["document", id], queryFn: () => api.get(`/documents/${id}`) })),
  });
  return {
    rows: found.flatMap((f) => (f.data ? [f.data.document] : [])),
    clear: () =>
      setParams(
        (was) => {
          const next = new URLSearchParams(was);
          next.delete("among");
          return next;
        },
        { replace: true },
      ),
  };
}
