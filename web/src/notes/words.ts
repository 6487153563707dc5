import type { ListedNote } from "../api/types";

/** The draft a note was written on, and the zone of the sheet if it has zones. */
export const placeOf = (n: ListedNote) => `${n.revision}.${n.ordinal}${n.zone ? ` · ${n.zone}` : ""}`;

/** How a request was answered. */
export const answers = {
  done: "done",
  doneDifferently: "done differently",
  cannot: "cannot be done",
  alreadySo: "already so",
} as const;

/** Whose turn it is, by name; null when nobody's. */
export function waitsWords(n: ListedNote, me: string): string | null {
  if (n.waitsFor === "nobody") return null;
  if (n.waitsFor === "reviewers") return "the reviewers";
  const [id, name] = n.waitsFor === "author" ? [n.author, n.authorName] : [n.originator, n.originatorName];
  return id === me ? "you" : name;
}
