import type { Shape } from "../../api/types";

/** A markup of one's own or somebody else's as it lies on a draft. */
export type Mark = {
  id: string;
  /** Null until the server has made one's first overlay. */
  overlay: string | null;
  leaf: number;
  shape: Shape;
  /** The note whose place it marks. */
  note: string | null;
  zone: string | null;
  mayChange: boolean;
  /** Those of one tie are picked and moved together. */
  tie: string | null;
  /** What is of a higher rank lies above; 0 unless it was put there. */
  rank: number;
};

/** What one markup was and is to be; null where it does not lie there. */
export type Change = { id: string; before: Mark | null; after: Mark | null };

export const inverse = (changes: readonly Change[]): Change[] =>
  changes.map(({ id, before, after }) => ({ id, before: after, after: before })).reverse();

/** Several changes one after another as one for each markup; what ends as it began is left out. */
export function merged(changes: readonly Change[]): Change[] {
  const all = new Map<string, Change>();
  for (const change of changes) {
    const earlier = all.get(change.id);
    all.set(change.id, earlier ? { ...change, before: earlier.before } : change);
  }
  return [...all.values()].filter((c) => c.before !== c.after);
}

/** Whether the server says again what it said: the shape follows from the version, what may be done with it does not. */
const isAsItWas = (was: Mark, mark: Mark, isSameVersion: boolean) =>
  isSameVersion &&
  was.mayChange === mark.mayChange &&
  was.overlay === mark.overlay &&
  was.note === mark.note &&
  was.tie === mark.tie &&
  was.rank === mark.rank &&
  was.zone === mark.zone;

/** Counts what the server has said to this page of single markups, whichever draft they lie on. */
let answers = 0;

/** The moment at which a list is asked for: what the server says of single markups afterwards is news to the list. */
export const asking = () => answers;

/** The markups of one draft: what the server says lies there, with what this page has changed since. */
export class MarkStore {
  private said: ReadonlyMap<string, Mark> = new Map();
  private versions = new Map<string, number>();
  /** When the server last said that a markup lies there, other than by a list. */
  private answered = new Map<string, number>();
  private unsaid: Change[] = [];
  private now: readonly Mark[] = [];
  private readonly listeners = new Set<() => void>();

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** All that lies on the draft, the lowest first: by rank, and in the order it was drawn. */
  readonly all = () => this.now;
  find = (id: string) => this.now.find((m) => m.id === id) ?? null;
  versionOf = (id: string) => this.versions.get(id) ?? 0;

  /** Changes markups on this page; the server is told by whoever called. */
  apply(changes: readonly Change[]) {
    this.unsaid.push(...changes);
    this.draw();
  }

  /** The server has these changes, or will never have them; what it says from now on holds. */
  settle(changes: readonly Change[]) {
    const done = new Set(changes);
    this.unsaid = this.unsaid.filter((c) => !done.has(c));
    this.draw();
  }

  /**
   * What lies there by the server, whole.
   * @param asked when it was asked for: what was drawn since lies there although the list does not know it
   */
  hear(marks: readonly (Mark & { version: number })[], asked = asking()) {
    const said = new Map<string, Mark>();
    let isSame = true;
    for (const { version, ...mark } of marks) {
      const was = this.said.get(mark.id);
      // What was asked for before one's own change was answered tells an old tale of it; what is as it was stays the same to the page.
      const isOld = version < this.versionOf(mark.id);
      const now = isOld || (was && isAsItWas(was, mark, version === this.versionOf(mark.id))) ? was : mark;
      if (now) said.set(mark.id, now);
      isSame &&= now === was && was !== undefined;
      this.keepVersion(mark.id, version);
    }
    for (const [id, mark] of this.said) if ((this.answered.get(id) ?? 0) > asked && !said.has(id)) said.set(id, mark);
    if (isSame && said.size === this.said.size) return;
    this.said = said;
    this.draw();
  }

  /** What the server says of some. */
  hearOf(marks: readonly (Mark & { version: number })[], erased: readonly { id: string; version: number }[]) {
    const said = new Map(this.said);
    for (const { version, ...mark } of marks) {
      // An answer that was overtaken by a later one says nothing new.
      if (version < this.versionOf(mark.id)) continue;
      said.set(mark.id, mark);
      this.answered.set(mark.id, ++answers);
      this.keepVersion(mark.id, version);
    }
    for (const { id, version } of erased) {
      if (version < this.versionOf(id)) continue;
      said.delete(id);
      this.keepVersion(id, version);
    }
    this.said = said;
    this.draw();
  }

  private keepVersion(id: string, version: number) {
    this.versions.set(id, Math.max(version, this.versionOf(id)));
  }

  private draw() {
    const all = new Map(this.said);
    for (const { id, after } of this.unsaid) {
      if (after) all.set(id, after);
      else all.delete(id);
    }
    this.now = [...all.values()];
    if (this.now.some((m) => m.rank !== 0)) this.now = [...this.now].sort((a, b) => a.rank - b.rank);
    for (const listener of this.listeners) listener();
  }
}
