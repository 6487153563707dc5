import type { NoteRow } from "../api/types";
import { isFound } from "../lists/listing";
import { anchorOf } from "../viewer/shapes";

/** Which notes of a draft are listed, and in what order. */
export type Sift = {
  words: string;
  show: Showing;
  order: Order;
  /** Those that have a place on this overlay; null for any. */
  overlay: string | null;
  /** Those of this round; null for any. */
  round: number | null;
};
export type Showing = "all" | "open" | "request" | "question" | "remark" | "mine" | "closed" | "pressing";
export type Order = "number" | "place" | "author" | "standing";

export const everything: Sift = { words: "", show: "all", order: "number", overlay: null, round: null };

export const showings: readonly [Showing, string][] = [
  ["all", "all notes"],
  ["open", "not settled"],
  ["pressing", "urgent or late"],
  ["request", "requests"],
  ["question", "questions"],
  ["remark", "remarks"],
  ["mine", "yours"],
  ["closed", "closed"],
];
export const orders: readonly [Order, string][] = [
  ["number", "by number"],
  ["place", "by place"],
  ["author", "by author"],
  ["standing", "by standing"],
];

const isShown = (n: NoteRow, show: Showing, me: string) => {
  switch (show) {
    case "all":
      return true;
    case "open":
      return n.standing !== "closed" && n.kind !== "remark";
    case "mine":
      return n.author === me || n.for === me;
    case "pressing":
      return n.presses;
    case "closed":
      return n.standing === "closed";
    default:
      return n.kind === show;
  }
};

/** What is open comes first, then what waits to be looked at again, then what is settled. */
const standings = ["open", "answered", "carriedOver", "closed"];

/** Where a note lies on a draft, as one reads: sheet after sheet, from the top, from the left; what is about the whole comes first. */
function placeOn(n: NoteRow, draft: string): [number, number, number] {
  const mark = n.marks.find((m) => m.draft === draft) ?? n.marks[0];
  if (!mark) return [-1, 0, 0];
  const { x, y } = anchorOf(mark.shape);
  // Rows of a table are counted downwards, a sheet's heights upwards.
  return [mark.place.leaf, mark.shape.shape === "cells" ? y : -y, x];
}

/** The notes that are listed, in their order; their numbers never change. */
export function sifted(
  notes: readonly NoteRow[],
  { words, show, order, overlay, round }: Sift,
  draft: string,
  me: string,
): NoteRow[] {
  const left = notes.filter(
    (n) =>
      isShown(n, show, me) &&
      (overlay === null || n.marks.some((m) => m.overlay === overlay)) &&
      (round === null || n.round === round) &&
      isFound(
        words,
        `${n.number}`,
        n.body,
        n.authorName,
        ...n.acts.map((a) => a.body),
        ...n.marks.map((m) => m.zone ?? ""),
        ...n.terms.tags,
      ),
  );
  const places = new Map(left.map((n) => [n.id, placeOn(n, draft)]));
  const by: Record<Order, (a: NoteRow, b: NoteRow) => number> = {
    number: () => 0,
    place: (a, b) => {
      const [p, q] = [places.get(a.id)!, places.get(b.id)!];
      return p[0] - q[0] || p[1] - q[1] || p[2] - q[2];
    },
    author: (a, b) => a.authorName.localeCompare(b.authorName),
    standing: (a, b) => standings.indexOf(a.standing) - standings.indexOf(b.standing),
  };
  return left.sort((a, b) => by[order](a, b) || a.number - b.number);
}

/** The note after the one picked, or before it; round again at the end. Where none is picked, the first or the last. */
export function stepFrom(notes: readonly NoteRow[], picked: string | null, by: 1 | -1): NoteRow | null {
  if (notes.length === 0) return null;
  const at = notes.findIndex((n) => n.id === picked);
  if (at < 0) return notes[by > 0 ? 0 : notes.length - 1]!;
  return notes[(at + by + notes.length) % notes.length]!;
}
