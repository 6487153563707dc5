import { sameShape } from "../shapes";
import type { Change, Mark } from "./store";

/** Where what the server has not got is put down; a page that was closed on a dead line loses nothing. */
export type Shelf = { get(): Unsent | undefined; set(value: Unsent | undefined): void };
export type Unsent = Readonly<Record<string, Change>>;

const isAlike = (a: Mark | null, b: Mark | null) =>
  a && b ? a.leaf === b.leaf && a.tie === b.tie && a.rank === b.rank && sameShape(a.shape, b.shape) : a === b;

/** Keeps what one page has not sent on a shelf that other pages of the same person may use as well. */
export class UnsentMarks {
  /** What an earlier page left behind. */
  private left: readonly Change[];
  private mine: readonly string[] = [];

  constructor(private readonly shelf: Shelf) {
    this.left = Object.values(shelf.get() ?? {});
  }

  keep(unsent: readonly Change[]) {
    if (unsent.length === 0 && this.mine.length === 0) return;
    const gone = new Set(this.mine);
    const others = Object.entries(this.shelf.get() ?? {}).filter(([id]) => !gone.has(id));
    this.mine = unsent.map((c) => c.id);
    const all = Object.fromEntries([...others, ...unsent.map((c) => [c.id, c] as const)]);
    this.shelf.set(Object.keys(all).length > 0 ? all : undefined);
  }

  /**
   * What is to be sent now, once: not what came through after all, nor what has been changed elsewhere since, for that is the later word.
   * @param find what lies on the draft now, by the server
   */
  takeUp(find: (id: string) => Mark | null): { send: readonly Change[]; isOvertaken: boolean } {
    const { left } = this;
    this.left = [];
    this.mine = [...this.mine, ...left.map((c) => c.id)];
    const waiting = left.filter((c) => !isAlike(find(c.id), c.after));
    const send = waiting.filter((c) => isAlike(find(c.id), c.before));
    return { send, isOvertaken: send.length < waiting.length };
  }
}
