import { queryOptions } from "@tanstack/react-query";
import { api } from "../api/client";

/** Who is signed in here, if anybody. */
export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: () => api.get("/session"),
  staleTime: Infinity,
});
