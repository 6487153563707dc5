import { api, Refusal } from "../../api/client";
import { newKey } from "../../api/key";
import type { DrawnMarkup, Shape } from "../../api/types";
import { MarkHistory } from "./history";
import { asking, MarkStore, type Change, type Mark } from "./store";
import { MarkSync } from "./sync";
import { UnsentMarks, type Shelf } from "./unsent";

/** A markup as the server describes it. */
export const markOf = (m: DrawnMarkup): Mark & { version: number } => ({
  id: m.id,
  overlay: m.overlay,
  leaf: m.place.leaf,
  shape: m.shape,
  note: m.note ?? null,
  zone: m.zone ?? null,
  mayChange: m.mayChange,
  tie: m.tie,
  rank: m.rank,
  version: m.version,
});

/** Drawing on one draft: what lies there, what was done, and what of it the server has. */
export class Marking {
  readonly store = new MarkStore();
  readonly history = new MarkHistory();
  readonly sync: MarkSync;
  private readonly listeners = new Set<() => void>();
  private readonly unsent: UnsentMarks;
  private count = 0;

  constructor(draft: string, shelf: Shelf) {
    this.unsent = new UnsentMarks(shelf);
    this.sync = new MarkSync(
      this.store,
      {
        send: async (changes, key) => {
          const answer = await api.post(`/drafts/${draft}/markups`, { changes, key });
          return { markups: answer.markups.map(markOf), erased: answer.erased };
        },
        fetch: async () => (await api.get(`/drafts/${draft}/overlays`)).overlays.flatMap((o) => o.markups.map(markOf)),
        isDown: (e) => e instanceof Refusal && (e.code === "offline" || e.status >= 500),
        newKey,
        wait: (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds)),
      },
      () => {
        this.unsent.keep(this.sync.unsent);
        this.tell();
      },
      (ids) => this.history.forget(ids),
    );
    this.store.subscribe(() => this.tell());
  }

  /** Does something to markups, one gesture. */
  do(changes: readonly Change[], alike = "") {
    if (changes.length === 0) return;
    this.history.keep(changes, alike, Date.now());
    this.sync.push(changes);
  }
  /** @param overlay on which; the last of all where none is named */
  undo(overlay: string | null = null) {
    this.again(this.history.undo(overlay));
  }
  redo(overlay: string | null = null) {
    this.again(this.history.redo(overlay));
  }
  draw(mark: Mark) {
    this.do([{ id: mark.id, before: null, after: mark }]);
  }
  /** Draws several: one gesture. */
  drawAll(marks: readonly Mark[]) {
    this.do(marks.map((mark) => ({ id: mark.id, before: null, after: mark })));
  }
  erase(...ids: readonly string[]) {
    this.do(this.own(ids).map((mark) => ({ id: mark.id, before: mark, after: null })));
  }
  reshape(id: string, shape: Shape, alike = "") {
    this.reshapeAll([{ id, shape }], alike);
  }
  /** Reshapes several: one gesture, or with those before of the same word. */
  reshapeAll(shapes: readonly { id: string; shape: Shape }[], alike = "") {
    const to = new Map(shapes.map((s) => [s.id, s.shape]));
    const marks = this.own([...to.keys()]);
    this.do(
      marks.map((mark) => ({ id: mark.id, before: mark, after: { ...mark, shape: to.get(mark.id)! } })),
      alike && [alike, ...marks.map((m) => m.id).sort()].join(" "),
    );
  }

  /** Puts markups above or beneath all others on their sheets. One gesture. */
  order(ids: readonly string[], to: "above" | "beneath") {
    const [all, own] = [this.store.all(), this.own(ids)];
    const beyond = (leaf: number) => {
      const ranks = all.filter((m) => m.leaf === leaf && !ids.includes(m.id)).map((m) => m.rank);
      if (ranks.length === 0) return 0;
      return to === "above" ? Math.max(...ranks) + 1 : Math.min(...ranks) - 1;
    };
    this.do(
      own.map((mark) => ({ id: mark.id, before: mark, after: { ...mark, rank: beyond(mark.leaf) } })),
      `${to} ${[...ids].sort().join(" ")}`,
    );
  }

  /** Ties markups together, or unties them. One gesture. */
  tie(ids: readonly string[], isTied: boolean) {
    const tie = isTied ? newKey() : null;
    const own = this.own(ids).filter((mark) => isTied || mark.tie !== null);
    this.do(own.map((mark) => ({ id: mark.id, before: mark, after: { ...mark, tie } })));
  }

  /** Puts markups on another overlay, as new ones: what was signed with stays what it was. One gesture. */
  move(ids: readonly string[], overlay: string): readonly string[] {
    const moved = this.own(ids)
      .filter((mark) => mark.overlay !== overlay)
      .map((mark) => ({ from: mark, to: { ...mark, id: newKey(), overlay } }));
    this.do(
      moved.flatMap(({ from, to }) => [
        { id: from.id, before: from, after: null },
        { id: to.id, before: null, after: to },
      ]),
    );
    return moved.map(({ to }) => to.id);
  }
  /** What lies on the draft by the server, asked for when; what an earlier page drew and could not send goes now. */
  hear(marks: readonly (Mark & { version: number })[], asked = asking()) {
    this.store.hear(marks, asked);
    const { send, isOvertaken } = this.unsent.takeUp(this.store.find);
    if (send.length > 0) this.sync.push(send);
    if (isOvertaken)
      this.sync.say(
        "Something you drew before the line was lost has been changed elsewhere since. It is shown as it is now.",
      );
    // What needs no sending need not be kept.
    this.unsent.keep(this.sync.unsent);
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** Counts what has changed: a page looks again when it does. */
  readonly changes = () => this.count;

  private own(ids: readonly string[]): Mark[] {
    return ids.flatMap((id) => this.store.find(id) ?? []).filter((mark) => mark.mayChange);
  }
  private again(changes: Change[]) {
    if (changes.length > 0) this.sync.push(changes);
    else this.tell();
  }
  private tell() {
    this.count++;
    for (const listener of this.listeners) listener();
  }
}
