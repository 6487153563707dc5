import { queryOptions } from "@tanstack/react-query";
import { api } from "../api/client";

/** The lists whose views are kept. */
export type ListName = "desk" | "register" | "turnaround" | "notes" | "ledger" | "post";

/** One's own views of a list. */
export const viewsQuery = (list: ListName) =>
  queryOptions({ queryKey: ["views", list], queryFn: () => api.get(`/views/${list}`) });
