import { api } from "../api/client";
import { pagesOf, picked, type Get } from "../lists/pages";
import { dayAfter, dayFrom } from "../ui/days";
import { dayBegins } from "../ui/time";

/** The first moment of a day on the reader's calendar, or of a day after it; empty where the address names no day. */
function momentOf(words: string, after = 0): string {
  const day = dayFrom(words);
  if (!day) return "";
  const begins = dayBegins(dayAfter(day, after));
  // After the last day that calendars here have, nothing is left out.
  return Number.isNaN(begins) ? "" : new Date(begins).toISOString();
}

/** What an address of the ledger asks for. */
export const entriesAsked = (get: Get) => ({
  ...picked(get, "subject", "person", "search", "chain", "sort"),
  from: momentOf(get("from")),
  until: momentOf(get("until"), 1),
});

export const entriesList = (what: ReturnType<typeof entriesAsked>) =>
  pagesOf(["ledger", what], (after) => api.get("/ledger", { ...what, after }));
