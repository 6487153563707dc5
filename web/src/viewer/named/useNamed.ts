import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import type { NamedDocument } from "../../api/types";

const none: readonly NamedDocument[] = [];

/** Documents of the register that a leaf names; none until they are known. */
export function useNamed(draft: string, position: number | undefined): readonly NamedDocument[] {
  const { data } = useQuery({
    // What is gathered of a draft's words is told under its sheets.
    queryKey: ["sheets", draft, "named", position],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${position}/named`),
    enabled: draft !== "" && position !== undefined,
    staleTime: 60_000,
    // Links are no more than a help: the sheet is shown without them.
    meta: { saysItself: true },
  });
  return data ?? none;
}
