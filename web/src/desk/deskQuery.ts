import { queryOptions } from "@tanstack/react-query";
import { api } from "../api/client";

/** What is on one's desk. */
export const deskQuery = queryOptions({
  queryKey: ["desk"],
  queryFn: () => api.get("/desk"),
  meta: { saysItself: true },
});
