import type { MarkupChange } from "../../api/types";
import { placeOf } from "../shapes";
import { asking, merged, type Change, type Mark, type MarkStore } from "./store";

type Known = Mark & { version: number };
export type Answer = { markups: readonly Known[]; erased: readonly { id: string; version: number }[] };
export type Line = {
  /** Sends changes; throws what `isDown` knows when the line is dead, and a refusal otherwise. */
  send(changes: MarkupChange[], key: string): Promise<Answer>;
  /** What lies on the draft now. */
  fetch(): Promise<readonly Known[]>;
  isDown(fault: unknown): boolean;
  newKey(): string;
  wait(milliseconds: number): Promise<void>;
};

/** How many changes the server takes at once. */
const MOST = 200;

/** Brings what is drawn to the server, one batch after the other, in order; a dead line is tried again until it is there. */
export class MarkSync {
  private waiting: Change[] = [];
  private underWay: Change[] = [];
  private isRunning = false;
  private last = Promise.resolve();
  /** What the person must know; empty when all is well. */
  fault = "";
  /** Whether changes are on their way, and whether the line is dead. */
  state: "saved" | "saving" | "offline" = "saved";

  constructor(
    private readonly store: MarkStore,
    private readonly line: Line,
    private readonly onChange: () => void,
    private readonly onRefused: (ids: ReadonlySet<string>) => void,
  ) {}

  push(changes: readonly Change[]) {
    this.fault = "";
    this.store.apply(changes);
    this.waiting.push(...changes);
    if (!this.isRunning) this.last = this.run();
    this.onChange();
  }

  say(fault: string) {
    this.fault = fault;
    this.onChange();
  }

  /** What the server has not got yet, as one change for each markup. */
  get unsent(): readonly Change[] {
    return merged([...this.underWay, ...this.waiting]);
  }

  /** Resolves when nothing is on its way. */
  async settled() {
    await this.last;
  }

  private async run() {
    this.isRunning = true;
    while (this.waiting.length > 0) {
      const batch = this.waiting.splice(0, MOST);
      this.underWay = batch;
      await this.sendAll(batch);
      this.underWay = [];
      this.onChange();
    }
    this.isRunning = false;
    this.tell("saved");
  }

  private async sendAll(batch: Change[]) {
    const changes = merged(batch).map(({ id, after }) => this.wanted(id, after));
    const key = this.line.newKey();
    for (let tries = 0; ; tries++) {
      this.tell(tries === 0 ? "saving" : "offline");
      try {
        if (changes.length > 0) {
          const answer = await this.line.send(changes, key);
          this.store.hearOf(answer.markups, answer.erased);
        }
        this.store.settle(batch);
        return;
      } catch (e) {
        if (this.line.isDown(e)) {
          await this.line.wait(Math.min(500 * 2 ** tries, 10_000));
          continue;
        }
        await this.refused(batch, (e as Error).message);
        return;
      }
    }
  }

  /** The server holds something else: what it says is shown, and nothing that was built on the refused is sent. */
  private async refused(batch: Change[], message: string) {
    this.fault = message;
    const ids = new Set(batch.map((c) => c.id));
    const built = this.waiting.filter((c) => ids.has(c.id));
    this.waiting = this.waiting.filter((c) => !ids.has(c.id));
    this.store.settle([...batch, ...built]);
    this.onRefused(ids);
    // Without an answer the next change of the same markup is refused in turn, and asks again.
    const asked = asking();
    await this.line.fetch().then(
      (marks) => this.store.hear(marks, asked),
      () => undefined,
    );
  }

  private wanted(id: string, after: Mark | null): MarkupChange {
    const version = this.store.versionOf(id);
    return after
      ? {
          change: "put",
          id,
          overlay: after.overlay,
          place: placeOf(after.shape, after.leaf),
          shape: after.shape,
          note: after.note,
          version,
          tie: after.tie,
          rank: after.rank,
        }
      : { change: "erase", id, version };
  }

  private tell(state: MarkSync["state"]) {
    if (this.state === state) return;
    this.state = state;
    this.onChange();
  }
}
