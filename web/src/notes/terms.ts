import type { NoteKind, NoteRow } from "../api/types";

/** What a note says besides its words, as it is typed. */
export type Terms = { urgent: boolean; due: string; tags: string; onPackage: boolean };
export const noTerms: Terms = { urgent: false, due: "", tags: "", onPackage: false };

/** As the server takes them: what a kind of note cannot have is left out. */
export const termsFor = (t: Terms, kind: NoteKind, hasPlace: boolean) => ({
  urgent: kind !== "remark" && t.urgent,
  due: kind !== "remark" && t.due ? t.due : null,
  tags: t.tags.split(/[,;]/).filter((tag) => tag.trim()),
  onPackage: kind !== "request" && !hasPlace && t.onPackage,
});

/** As they are typed again. */
export const asTyped = ({ urgent, due, tags, onPackage }: NoteRow["terms"]): Terms => ({
  ...{ urgent, onPackage },
  due: due ?? "",
  tags: tags.join(", "),
});
