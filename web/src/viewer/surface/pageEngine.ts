import type { LayerSwitch } from "../../api/types";
import type { Asked, Drawn, TileOfPage } from "./pageWorker";

/** Milliseconds that a tile may be drawn; what is fetched for it meanwhile, the file and fonts, does not count. */
const PATIENCE = 20_000;

/** Bytes from which on an engine is given no other file: what it has it never gives back, and the next may need it all. */
const LARGE = 256 * 1024 * 1024;

const TOO_HEAVY = "This page is too heavy to be drawn sharply here; what you see is the picture the server prepared.";

/** Whoever waits for a tile. */
type Waiting = {
  file: number;
  done: (tile: ImageBitmap) => void;
  failed: (e: Error) => void;
  /** Runs while it is being worked on. */
  limit: ReturnType<typeof setTimeout> | undefined;
};

/** A file that an engine holds open. */
export type OpenFile = {
  /** Whether it is looked at, or about to be. */
  readonly isWanted: boolean;
  /** Nothing more comes of it. */
  over(fault: Error): void;
};

export type Change = LayerSwitch & { hidden: readonly string[] };

/** What of a worker is wanted here. */
export type EngineWorker = Pick<Worker, "postMessage" | "terminate" | "onmessage" | "onerror">;

/** The engine that draws pages, in a worker that can be ended when it does not come back. It may hold several files. */
export class PageEngine {
  private readonly waiting = new Map<number, Waiting>();
  private readonly files = new Map<number, OpenFile>();
  private next = 1;
  private memory = 0;

  /** @param onEnd it has ended, whoever ended it */
  constructor(
    private readonly worker: EngineWorker,
    private readonly onEnd: () => void,
  ) {
    this.worker.onmessage = ({ data }: MessageEvent<Drawn>) => this.told(data);
    this.worker.onerror = () =>
      this.end("This page could not be drawn sharply; what you see is the picture the server prepared.");
  }

  /** Whether it can take another file: nobody looks at any that it has, and it has not grown large. */
  get isFree() {
    return this.memory < LARGE && ![...this.files.values()].some((f) => f.isWanted);
  }

  get isEmpty() {
    return this.files.size === 0;
  }

  /** Makes room for a file, whose bytes are still to come. */
  take(file: OpenFile): number {
    const number = this.next++;
    this.files.set(number, file);
    return number;
  }

  /** A file's bytes. */
  give(file: number, bytes: ArrayBuffer) {
    if (this.files.has(file)) this.worker.postMessage({ file, bytes } satisfies Asked, [bytes]);
  }

  /** Closes a file; whoever waits for a part of it is told why. */
  close(file: number, why: Error) {
    this.files.delete(file);
    this.ask({ close: file });
    this.fail((w) => w.file === file, why);
  }

  /** Reads a page before any of its tiles is wanted. */
  open(file: number, page: number, marks: boolean) {
    const nothing = () => undefined;
    this.ask({ id: this.wait({ file, done: nothing, failed: nothing }), file, open: { page, marks } });
  }

  /** Draws a part of a page. */
  tile(file: number, tile: TileOfPage, change: Change | null, stop: AbortSignal): Promise<ImageBitmap> {
    return new Promise((done, failed) => {
      const id = this.wait({ file, done, failed });
      stop.addEventListener("abort", () => {
        if (!this.waiting.has(id)) return;
        this.over(id);
        this.ask({ cancel: id });
        failed(new DOMException("Not wanted any more.", "AbortError"));
      });
      this.ask({ id, file, tile, change });
    });
  }

  /** Ends the worker with all its files; whoever waits is told why. */
  end(words: string) {
    const fault = new Error(words);
    this.worker.terminate();
    this.onEnd();
    for (const file of this.files.values()) file.over(fault);
    this.files.clear();
    this.fail(() => true, fault);
  }

  private ask(asked: Asked) {
    this.worker.postMessage(asked);
  }

  /** Has somebody wait for something that is asked of the worker, by its number. */
  private wait(who: Omit<Waiting, "limit">): number {
    const id = this.next++;
    this.waiting.set(id, { ...who, limit: undefined });
    return id;
  }

  private over(id: number) {
    clearTimeout(this.waiting.get(id)?.limit);
    this.waiting.delete(id);
  }

  private fail(whose: (w: Waiting) => boolean, why: Error) {
    for (const [id, one] of [...this.waiting]) {
      if (!whose(one)) continue;
      this.over(id);
      one.failed(why);
    }
  }

  private told(data: Drawn) {
    const one = this.waiting.get(data.id);
    if ("isBusy" in data) {
      clearTimeout(one?.limit);
      if (one && data.isBusy) one.limit = setTimeout(() => this.end(TOO_HEAVY), PATIENCE);
      return;
    }
    this.over(data.id);
    if ("memory" in data) this.memory = data.memory;
    if ("bitmap" in data) {
      if (one) one.done(data.bitmap);
      else data.bitmap.close();
    } else if ("fault" in data) {
      if (data.isOver) this.end(data.fault);
      one?.failed(new Error(data.fault));
    }
  }
}
