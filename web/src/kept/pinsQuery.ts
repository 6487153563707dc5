import { queryOptions } from "@tanstack/react-query";
import { api } from "../api/client";

/** What one has pinned, the last first. */
export const pinsQuery = queryOptions({
  queryKey: ["pins"],
  queryFn: () => api.get("/pins"),
  meta: { saysItself: true },
});
