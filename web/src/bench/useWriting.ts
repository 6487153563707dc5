import { useState } from "react";
import { newKey } from "../api/key";
import type { Shape } from "../api/types";
import { useKept } from "../kept/useKept";
import { copyText } from "../ui/copyText";
import type { Marking } from "../viewer/markup/marking";
import { hasSize, isInSpace } from "../viewer/shapes";
import { withWords, wordsOf, type Writing } from "./WordsEditor";

/** What was copied on this page, to be drawn on this sheet or another. */
let copied: readonly Shape[] = [];

/** How many stamps of one's own are offered again. */
const MOST_STAMPS = 8;

/** Words of markups that are being written on a draft, and markups that are copied from one sheet to another. */
export function useWriting(
  draft: string,
  /** The draft before, whose words may go on with this one. */
  last: string | undefined,
  marking: Marking,
  onDrawn: (shape: Shape) => void,
  signed: string,
  /** Words are begun; or would be, but others are not done, which are not put aside. */
  onBegin: (isBegun: boolean) => void,
) {
  // There is something to be drawn from now on: the page is told.
  const [, setCopies] = useState(0);
  const { value: writing, set, discard } = useKept<Writing | null>(`words on ${draft}`, null);
  const left = useKept<Writing | null>(`words on ${last ?? "none"}`, null);
  const own = useKept<readonly string[]>("stamps", [], "habit");
  /** What a new stamp says: who put it there, and when, is its last line. */
  const stamped = (shape: Shape): Shape => {
    if (shape.shape !== "stamp" || shape.text === "") return shape;
    own.set((was) => [shape.text, ...was.filter((s) => s !== shape.text)].slice(0, MOST_STAMPS));
    return { ...shape, text: `${shape.text}\n${signed}` };
  };
  const wouldBeMissed = (w: Writing | null) =>
    w !== null && w.text.trim() !== "" && w.text !== (w.id && wordsOf(w.shape));
  const isWritten = wouldBeMissed(writing);
  const begin = (next: Writing) => {
    // Gone on with are the same words.
    const isOther = isWritten && (next.id === null || next.id !== writing?.id);
    if (!isWritten) set(next);
    onBegin(!isOther);
  };
  return {
    writing,
    /** Whether something would be missed of what is being written. */
    isWritten,
    /** Words begun on the draft before, which may go on with this one; null where there are none, or others are being written. */
    left:
      left.value && wouldBeMissed(left.value) && !writing
        ? {
            take: () => {
              begin({ ...left.value!, id: null, overlay: null });
              left.discard();
            },
            discard: left.discard,
          }
        : null,
    /** What one has stamped before, the last first. */
    stamps: own.value,
    begin: (leaf: number, overlay: string | null, shape: Shape) =>
      begin({ id: null, leaf, overlay, shape, text: wordsOf(shape) ?? "" }),
    /** Writes the words of a markup anew; null when it has none, or it is not to be changed. */
    anew: (id: string | null): (() => void) | null => {
      const mark = id ? marking.store.find(id) : null;
      const text = mark?.mayChange ? wordsOf(mark.shape) : null;
      return mark && text !== null
        ? () => begin({ id: mark.id, leaf: mark.leaf, overlay: mark.overlay, shape: mark.shape, text })
        : null;
    },
    type: (text: string) => set((was) => was && { ...was, text }),
    done: () => {
      if (!writing) return;
      const shape = withWords(writing.shape, writing.text.trim());
      discard();
      if (!hasSize(shape)) return;
      const isNew = writing.id === null;
      // What is being written was moved or erased meanwhile: its words go where it is now, or nowhere.
      const now = writing.id ? marking.store.find(writing.id) : null;
      if (now) marking.reshape(now.id, withWords(now.shape, writing.text.trim()));
      else if (isNew) onDrawn(stamped(shape));
    },
    discard,
    copy: (ids: readonly string[]): (() => void) | null => {
      const shapes = ids
        .flatMap((id) => marking.store.find(id)?.shape ?? [])
        .filter((s) => s.shape !== "cells" && !isInSpace(s.shape));
      if (shapes.length === 0) return null;
      return () => {
        // Whoever has picked words on the page means those.
        const words = window.getSelection()?.toString() ?? "";
        if (words !== "") return void copyText(words);
        copied = shapes;
        setCopies((n) => n + 1);
      };
    },
    /** Draws what was copied in its place: one as though it were drawn by hand, several at once as they are. */
    paste: (onSeveral: (shapes: readonly Shape[]) => void): (() => void) | null =>
      copied.length === 0
        ? null
        : copied.length === 1
          ? () => onDrawn({ ...copied[0]! })
          : () => onSeveral(copied.map((s) => ({ ...s }))),
  };
}

/** A markup that stands for itself from now on. */
export const plainMark = (leaf: number, overlay: string | null, shape: Shape) => ({
  ...{ id: newKey(), overlay, leaf, shape },
  ...{ note: null, zone: null, mayChange: true, tie: null, rank: 0 },
});
