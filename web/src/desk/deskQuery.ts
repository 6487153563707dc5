import { queryOptions } from "@tanstack/react-query";
import { api } from "../api/client";

/** What is on one's desk. */
export const deskQuery = queryOptions({
  queryKey: ["desk"],
  queryFn: () => api.get("/desk"),
  meta: { saysItself: true },
});

/** A package as the desk sums it up and the bench opens it. */
export const packageQuery = (id: string) =>
  queryOptions({ queryKey: ["package", id], queryFn: () => api.get(`/packages/${id}`) });
