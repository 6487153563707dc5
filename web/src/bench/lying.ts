import type { DraftOverlay, NoteMark, NoteRow, OverlayLook, Shape } from "../api/types";
import type { Mark } from "../viewer/markup/store";

/** A markup to be drawn over the sheet. */
export type Lying = {
  id: string;
  shape: Shape;
  note: NoteRow | null;
  mayChange: boolean;
  /** On which other draft it was drawn, and which leaf of that; null where it was on this one. */
  from: { draft: string; leaf: number } | null;
  tie: string | null;
  look: OverlayLook;
};

/** How markups are drawn unless their overlay says otherwise. */
export const usualLook: OverlayLook = {
  ink: "spruce",
  line: "solid",
  width: "medium",
  isTinted: true,
  letters: "medium",
};

/** Places of notes that were drawn on another draft of a document, and lie on this one too. */
export const carriedTo = (notes: readonly NoteRow[], document: string, draft: string): { n: NoteRow; m: NoteMark }[] =>
  notes
    .filter((n) => n.places.some((at) => at.draft === draft && at.how === "carried"))
    .flatMap((n) => n.marks.filter((m) => m.document === document && m.draft !== draft).map((m) => ({ n, m })));

/** Markups of a leaf with the notes whose places they are; what is carried lies beneath. */
export const lyingOf = (
  leaf: number,
  marks: readonly Mark[],
  carried: readonly { n: NoteRow; m: NoteMark }[],
  notes: ReadonlyMap<string, NoteRow>,
  lookOf: (overlay: string | null) => OverlayLook,
): Lying[] => [
  ...carried
    .filter(({ m }) => m.place.leaf === leaf)
    .map(({ n, m }) => ({
      id: m.id,
      shape: m.shape,
      note: n,
      mayChange: false,
      from: { draft: m.draft, leaf: m.place.leaf },
      tie: null,
      look: usualLook,
    })),
  ...marks
    .filter((m) => m.leaf === leaf)
    .map((m) => ({
      id: m.id,
      shape: m.shape,
      note: (m.note && notes.get(m.note)) || null,
      mayChange: m.mayChange,
      from: null,
      tie: m.tie,
      look: lookOf(m.overlay),
    })),
];

/** How each of some overlays is drawn; what lies on none yet, as the one it will lie on. */
export const looksOf = (overlays: readonly DraftOverlay[], drawnOn: string | null) => {
  const looks = new Map(overlays.map((o) => [o.id, o.look]));
  return (overlay: string | null) => looks.get(overlay ?? drawnOn ?? "") ?? usualLook;
};
