import { newKey } from "../api/key";
import type { NoteKind, Shape } from "../api/types";
import type { Terms } from "./terms";
import { useKept } from "../kept/useKept";

/** A note that is being written, kept until it is stored or thrown away. */
export type Begun = {
  /** By which the server stores it once. */
  key: string;
  /** The markup it is for; null when it is about the draft as a whole. */
  mark: { id: string; overlay: string | null; leaf: number; shape: Shape } | null;
  /** Null until a kind is chosen. */
  kind: NoteKind | null;
  body: string;
  /** Whom a question asks. */
  of: string;
  /** What it says besides; one that was begun before there was any has none. */
  terms?: Terms;
};

export const begin = (mark: Begun["mark"]): Begun => ({ key: newKey(), mark, kind: null, body: "", of: "" });

/** The same words on another draft: a note of its own, at the same place. */
export const begunAnew = (begun: Begun): Begun => ({
  ...begun,
  key: newKey(),
  mark: begun.mark && { ...begun.mark, id: newKey(), overlay: null },
});

/** Begins a note; gives false where another has words already, which is not put aside for it. */
export function tryBegin(begun: ReturnType<typeof useBegun>, mark: Begun["mark"], body: string): boolean {
  if (begun.value?.body.trim()) return false;
  begun.set({ ...begin(mark), body });
  return true;
}

/** The note that is being written on a draft. */
export const useBegun = (draft: string) => useKept<Begun | null>(`note on ${draft}`, null);

/** Words begun on the last draft, which may go on with this one; null where there are none, or others are being written. */
export const wordsLeft = (
  left: ReturnType<typeof useBegun>,
  begun: ReturnType<typeof useBegun>,
  mayWrite: boolean,
  onTaken: () => void,
) =>
  left.value && left.value.body.trim() !== "" && !begun.value && mayWrite
    ? {
        take: () => {
          begun.set(begunAnew(left.value!));
          left.discard();
          onTaken();
        },
        discard: left.discard,
      }
    : null;
