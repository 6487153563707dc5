import { api, Refusal } from "../../api/client";
import { newKey } from "../../api/key";
import type { DrawnMarkup, Shape } from "../../api/types";
import { MarkHistory } from "./history";
import { MarkStore, type Change, type Mark } from "./store";
import { MarkSync } from "./sync";

/** A markup as the server describes it. */
export const markOf = (m: DrawnMarkup): Mark & { version: number } => ({
  id: m.id,
  overlay: m.overlay,
  leaf: m.place.leaf,
  shape: m.shape,
  note: m.note ?? null,
  zone: m.zone ?? null,
  mayChange: m.mayChange,
  version: m.version,
});

/** Drawing on one draft: what lies there, what was done, and what of it the server has. */
export class Marking {
  readonly store = new MarkStore();
  readonly history = new MarkHistory();
  readonly sync: MarkSync;
  private readonly listeners = new Set<() => void>();
  private count = 0;

  constructor(draft: string) {
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
      () => this.tell(),
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
  undo() {
    this.again(this.history.undo());
  }
  redo() {
    this.again(this.history.redo());
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
