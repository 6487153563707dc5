import wasmUrl from "@embedpdf/pdfium/pdfium.wasm?url";
import type { LayerSwitch } from "../../api/types";
import { fetchFile } from "./fetchFile";
import type { Asked, Drawn, TileOfPage } from "./pageWorker";

/** Milliseconds that a tile may be drawn; what is fetched for it meanwhile, the file and fonts, does not count. */
const PATIENCE = 20_000;

/** Whoever waits for a tile. */
type Waiting = {
  /** Whether it is being drawn now. */
  busy: (isBusy: boolean) => void;
  done: (tile: ImageBitmap) => void;
  failed: (e: Error) => void;
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

  /** Draws a part of a page. */
  async tile(tile: TileOfPage, change: Change | null, stop: AbortSignal): Promise<ImageBitmap> {
    if (this.fault) throw this.fault;
    const worker = (this.worker ??= this.start());
    const id = this.next++;
    return new Promise((resolve, reject) => {
      let limit: ReturnType<typeof setTimeout> | undefined;
      const over = () => {
        clearTimeout(limit);
        this.waiting.delete(id);
      };
      this.waiting.set(id, {
        busy: (isBusy) => {
          clearTimeout(limit);
          if (isBusy)
            limit = setTimeout(
              () =>
                this.end(
                  "This page is too heavy to be drawn sharply here; what you see is the picture the server prepared.",
                ),
              PATIENCE,
            );
        },
        done: (drawn) => {
          over();
          resolve(drawn);
        },
        failed: (e) => {
          over();
          reject(e);
        },
      });
      stop.addEventListener("abort", () => {
        if (!this.waiting.has(id)) return;
        over();
        worker.postMessage({ cancel: id } satisfies Asked);
        reject(new DOMException("Not wanted any more.", "AbortError"));
      });
      worker.postMessage({ id, tile, change } satisfies Asked);
    });
  }

  /** Ends the worker; whoever waits is told why. */
  end(words: string) {
    this.worker?.terminate();
    this.worker = null;
    this.fault = new Error(words);
    for (const { failed } of [...this.waiting.values()]) failed(this.fault);
  }

  private start(): Worker {
    const worker = spare ?? made();
    spare = null;
    worker.onmessage = (e: MessageEvent<Drawn>) => {
      const one = this.waiting.get(e.data.id);
      if ("isBusy" in e.data) one?.busy(e.data.isBusy);
      else if ("bitmap" in e.data) {
        if (one) one.done(e.data.bitmap);
        else e.data.bitmap.close();
      } else if (e.data.isOver) this.end(e.data.fault);
      else one?.failed(new Error(e.data.fault));
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
