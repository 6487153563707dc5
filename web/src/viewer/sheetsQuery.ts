import { queryOptions } from "@tanstack/react-query";
import { api } from "../api/client";

/** What a draft's leaves are, and how each is drawn; they do not change by themselves. */
export const sheetsQuery = (draft: string) =>
  queryOptions({
    queryKey: ["sheets", draft],
    queryFn: () => api.get(`/drafts/${draft}/leaves`),
    staleTime: Infinity,
  });
