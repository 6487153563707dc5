import wasmUrl from "@embedpdf/pdfium/pdfium.wasm?url";
import type { LayerSwitch } from "../../api/types";
import { fetchFile } from "./fetchFile";
import type { Asked, Drawn, TileOfPage } from "./pageWorker";

/** Milliseconds that a tile may be drawn; what is fetched for it meanwhile, the file and fonts, does not count. */
const PATIENCE = 20_000;

const TOO_HEAVY = "This page is too heavy to be drawn sharply here; what you see is the picture the server prepared.";

/** Whoever waits for a tile. */
type Waiting = {
  done: (tile: ImageBitmap) => void;
  failed: (e: Error) => void;
  /** Runs while it is being worked on. */
  limit: ReturnType<typeof setTimeout> | undefined;
};

type Change = LayerSwitch & { hidden: readonly string[] };

/** A worker with the engine in it. */
function made(): Worker {
  const worker = new Worker(new URL("./pageWorker.ts", import.meta.url), { type: "module" });
  worker.postMessage({ wasmUrl } satisfies Asked);
  return worker;
}

/** One whose engine is ready, or will be, before anybody knows which file it is for. */
let spare: Worker | null = null;

/** Makes the engine ready, for whoever is about to look at pages. */
export function warmPages() {
  if (spare) return;
  const worker = (spare = made());
  // One that cannot start is of no use to anybody; whoever needs one tries again and is told.
  worker.onmessage = worker.onerror = () => {
    worker.terminate();
    if (spare === worker) spare = null;
  };
}

/** The pages of a PDF file, drawn in a worker that can be ended when it does not come back. */
export class Pages {
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private next = 1;
  private fault: Error | null = null;

  /** Whether nothing more comes of it: whoever opens the document again begins anew. */
  get isOver() {
    return this.fault !== null;
  }

  /** @param url where the document is fetched from */
  constructor(private readonly url: string) {}

  /** Opens a page before anybody wants its tiles: reading what it draws takes longer than drawing it, and can go on beside all that the bench does. */
  open(page: number, marks: boolean) {
    if (this.worker) return;
    const worker = (this.worker = this.start());
    const nothing = () => undefined;
    const id = this.wait({ done: nothing, failed: nothing });
    worker.postMessage({ id, open: { page, marks } } satisfies Asked);
  }

  /** Draws a part of a page. */
  async tile(tile: TileOfPage, change: Change | null, stop: AbortSignal): Promise<ImageBitmap> {
    if (this.fault) throw this.fault;
    const worker = (this.worker ??= this.start());
    return new Promise((done, failed) => {
      const id = this.wait({ done, failed });
      stop.addEventListener("abort", () => {
        if (!this.waiting.has(id)) return;
        this.over(id);
        worker.postMessage({ cancel: id } satisfies Asked);
        failed(new DOMException("Not wanted any more.", "AbortError"));
      });
      worker.postMessage({ id, tile, change } satisfies Asked);
    });
  }

  /** Has somebody wait for something that is asked of the worker, by its number. */
  private wait(who: Pick<Waiting, "done" | "failed">): number {
    const id = this.next++;
    this.waiting.set(id, { ...who, limit: undefined });
    return id;
  }

  private over(id: number) {
    clearTimeout(this.waiting.get(id)?.limit);
    this.waiting.delete(id);
  }

  /** Ends the worker; whoever waits is told why. */
  end(words: string) {
    this.worker?.terminate();
    this.worker = null;
    this.fault = new Error(words);
    for (const [id, { failed }] of [...this.waiting]) {
      this.over(id);
      failed(this.fault);
    }
  }

  private start(): Worker {
    const worker = spare ?? made();
    spare = null;
    worker.onmessage = ({ data }: MessageEvent<Drawn>) => {
      const one = this.waiting.get(data.id);
      if ("isBusy" in data) {
        clearTimeout(one?.limit);
        if (one && data.isBusy) one.limit = setTimeout(() => this.end(TOO_HEAVY), PATIENCE);
        return;
      }
      this.over(data.id);
      if ("bitmap" in data) {
        if (one) one.done(data.bitmap);
        else data.bitmap.close();
      } else if ("fault" in data) {
        if (data.isOver) this.end(data.fault);
        one?.failed(new Error(data.fault));
      }
    };
    worker.onerror = () =>
      this.end("This page could not be drawn sharply; what you see is the picture the server prepared.");
    void fetchFile(this.url, () => undefined, new AbortController().signal)
      .then((file) => worker.postMessage({ file } satisfies Asked, [file]))
      .catch(() => this.end("The file could not be fetched; what you see is the picture the server prepared."));
    return worker;
  }
}

/** Files held open: going from one item to the next and back should not open them anew. */
const MOST_OPEN = 2;
const open = new Map<string, Pages>();

/** The pages of a document, by its address. */
export function openPages(url: string): Pages {
  const before = open.get(url);
  const known = before && !before.isOver ? before : new Pages(url);
  open.delete(url);
  open.set(url, known);
  for (const [old, pages] of open) {
    if (open.size <= MOST_OPEN) break;
    open.delete(old);
    pages.end("The file was closed to make room for others; what you see is not sharp.");
  }
  return known;
}
