import { queryOptions } from "@tanstack/react-query";
import { api } from "../api/client";

/** A package as the desk and turnaround sum it up and the bench opens it. */
export const packageQuery = (id: string) =>
  queryOptions({ queryKey: ["package", id], queryFn: () => api.get(`/packages/${id}`) });
