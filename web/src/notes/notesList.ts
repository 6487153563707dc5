import { api } from "../api/client";
import { pagesOf, picked, type Get } from "../lists/pages";

/** Which notes are shown: in the address, in words, for the server. */
export const standings = [
  ["", "not settled", "unsettled"],
  ["open", "open", "open"],
  ["answered", "answered", "answered"],
  ["pressing", "urgent or late", "pressing"],
  ["closed", "closed", "closed"],
  ["withdrawn", "withdrawn", "withdrawn"],
  ["all", "all", ""],
] as const;

/** The one of them that an address names; those that are not settled where it names none. */
export const standingIn = (get: Get) => standings.find(([value]) => value === get("standing")) ?? standings[0];

/** What an address of the notes asks for, by whoever looks. */
export const notesAsked = (get: Get, me: string) => ({
  ...picked(get, "kind", "person", "document", "package", "search", "sort"),
  standing: standingIn(get)[2],
  author: get("whose") === "asked" ? me : "",
  originator: get("whose") === "mine" ? me : "",
});

export const notesList = (what: ReturnType<typeof notesAsked>) =>
  pagesOf(["notes", what], (after) => api.get("/notes", { ...what, after }));
