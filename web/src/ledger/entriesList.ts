import { api } from "../api/client";
import { pagesOf, picked, type Get } from "../lists/pages";

/** The first moment of a day where the reader is, and of the day after it. */
const dayFrom = (day: string) => (day ? new Date(`${day}T00:00`).toISOString() : "");
const dayAfter = (day: string) => {
  if (!day) return "";
  const next = new Date(`${day}T00:00`);
  next.setDate(next.getDate() + 1);
  return next.toISOString();
};

/** What an address of the ledger asks for. */
export const entriesAsked = (get: Get) => ({
  ...picked(get, "subject", "person", "search", "chain", "sort"),
  from: dayFrom(get("from")),
  until: dayAfter(get("until")),
});

export const entriesList = (what: ReturnType<typeof entriesAsked>) =>
  pagesOf(["ledger", what], (after) => api.get("/ledger", { ...what, after }));
