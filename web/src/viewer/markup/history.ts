import { inverse, merged, type Change } from "./store";

type Gesture = { changes: Change[]; alike: string; at: number };

/** Whether a gesture changed something on an overlay. What was drawn before the server made one's first overlay may lie on any. */
const isOn = ({ changes }: Gesture, overlay: string | null) =>
  overlay === null ||
  changes.some(({ before, after }) => [before, after].some((m) => m && (m.overlay === overlay || m.overlay === null)));

/** Takes the last gesture on an overlay out of some; where a later one changed the same markups, that one goes first. */
function taken(all: Gesture[], overlay: string | null): Gesture | undefined {
  let index = all.findLastIndex((g) => isOn(g, overlay));
  for (;;) {
    const ids = new Set(all[index]?.changes.map((c) => c.id));
    const later = all.findLastIndex((g, i) => i > index && g.changes.some((c) => ids.has(c.id)));
    if (later < 0) break;
    index = later;
  }
  return index < 0 ? undefined : all.splice(index, 1)[0];
}

/**
 * What was done to the markups of a draft by hand, gesture by gesture, so that it can be undone and done again: on each overlay by itself, or on all of them where
 * none is named.
 */
export class MarkHistory {
  private done: Gesture[] = [];
  private undone: Gesture[] = [];

  /** How soon one key press after another belongs to the same gesture, in milliseconds. */
  static readonly TOGETHER = 1000;

  canUndo(overlay: string | null = null) {
    return this.done.some((g) => isOn(g, overlay));
  }
  canRedo(overlay: string | null = null) {
    return this.undone.some((g) => isOn(g, overlay));
  }

  /** Keeps a gesture. Those of one word that follow each other at once are one: a markup moved by ten presses of a key moves back by one undo. */
  keep(changes: readonly Change[], alike: string, at: number) {
    const last = this.done.at(-1);
    const gesture = { changes: [...changes], alike, at };
    if (alike !== "" && last?.alike === alike && at - last.at < MarkHistory.TOGETHER)
      this.done[this.done.length - 1] = { changes: merged([...last.changes, ...changes]), alike, at };
    else this.done.push(gesture);
    // What was undone on other overlays can still be done again.
    const overlays = new Set(changes.flatMap(({ before, after }) => [before?.overlay, after?.overlay]));
    this.undone = this.undone.filter((g) => ![...overlays].some((o) => o !== undefined && isOn(g, o)));
  }

  /** The changes that undo the last gesture. */
  undo(overlay: string | null = null): Change[] {
    const last = taken(this.done, overlay);
    if (!last) return [];
    this.undone.push(last);
    return inverse(last.changes);
  }

  redo(overlay: string | null = null): Change[] {
    const last = taken(this.undone, overlay);
    if (!last) return [];
    // Done again it is a gesture of its own.
    this.done.push({ changes: last.changes, alike: "", at: 0 });
    return last.changes;
  }

  /** What cannot be changed any more can be undone no more either. */
  forget(ids: ReadonlySet<string>) {
    const kept = ({ changes }: Gesture) => !changes.some((c) => ids.has(c.id));
    this.done = this.done.filter(kept);
    this.undone = this.undone.filter(kept);
  }
}
