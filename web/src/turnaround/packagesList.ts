import { queryOptions } from "@tanstack/react-query";
import { api } from "../api/client";
import { pagesOf, picked, type Get } from "../lists/pages";

/** Which packages are shown: in the address, in words, for the server. */
export const standings = [
  ["all", "all", ""],
  ["", "in review", "in review"],
  ["returned", "returned", "returned"],
  ["released", "released", "released"],
  ["stopped", "stopped", "stopped"],
] as const;

/** Whom and what an address of turnaround is about; the late ones are asked for by that alone. */
export function fitsAsked(get: Get) {
  const [, , standing] = standings.find(([value]) => value === get("standing")) ?? standings[1];
  return { standing, ...picked(get, "plan", "person", "step", "search") };
}

/** What an address of turnaround asks for. */
export const packagesAsked = (get: Get) => ({
  ...fitsAsked(get),
  late: get("late") === "" ? "" : "true",
  sort: get("sort"),
});

export const packagesList = (what: ReturnType<typeof packagesAsked>) =>
  pagesOf(["packages", what], (after) => api.get("/packages", { ...what, after }));

export const latePackages = (fits: ReturnType<typeof fitsAsked>) =>
  queryOptions({ queryKey: ["packages", "late", fits], queryFn: () => api.get("/packages/late", fits) });
