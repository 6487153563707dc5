import { inverse, merged, type Change } from "./store";

/** What was done to the markups of a draft by hand, gesture by gesture, so that it can be undone and done again. */
export class MarkHistory {
  private done: { changes: Change[]; alike: string; at: number }[] = [];
  private undone: Change[][] = [];

  /** How soon one key press after another belongs to the same gesture, in milliseconds. */
  static readonly TOGETHER = 1000;

  get canUndo() {
    return this.done.length > 0;
  }
  get canRedo() {
    return this.undone.length > 0;
  }

  /** Keeps a gesture. Those of one word that follow each other at once are one: a markup moved by ten presses of a key moves back by one undo. */
  keep(changes: readonly Change[], alike: string, at: number) {
    const last = this.done.at(-1);
    if (alike !== "" && last?.alike === alike && at - last.at < MarkHistory.TOGETHER)
      this.done[this.done.length - 1] = { changes: merged([...last.changes, ...changes]), alike, at };
    else this.done.push({ changes: [...changes], alike, at });
    this.undone = [];
  }

  /** The changes that undo the last gesture. */
  undo(): Change[] {
    const last = this.done.pop();
    if (!last) return [];
    this.undone.push(last.changes);
    return inverse(last.changes);
  }

  redo(): Change[] {
    const last = this.undone.pop();
    if (!last) return [];
    this.done.push({ changes: last, alike: "", at: 0 });
    return last;
  }

  /** What cannot be changed any more can be undone no more either. */
  forget(ids: ReadonlySet<string>) {
    const kept = (changes: readonly Change[]) => !changes.some((c) => ids.has(c.id));
    this.done = this.done.filter((d) => kept(d.changes));
    this.undone = this.undone.filter(kept);
  }
}
