import { fetchFile } from "./fetchFile";
import { PageEngine, type Change, type EngineWorker } from "./pageEngine";
import type { TileOfPage } from "./pageWorker";

/** Engines that run. */
export class Engines {
  private readonly all = new Set<PageEngine>();

  /** @param start starts another worker */
  constructor(private readonly start: () => EngineWorker) {}

  /** One whose files nobody looks at, or a new one: a file that brings its engine down harms nothing that is seen. */
  free(): PageEngine {
    for (const one of this.all) if (one.isFree) return one;
    const made = new PageEngine(this.start(), () => this.all.delete(made));
    this.all.add(made);
    return made;
  }

  /** Ends one that has no file any more, unless it is the last: that is ready for the next. */
  spare(one: PageEngine, words: string) {
    if (one.isEmpty && this.all.size > 1) one.end(words);
  }
}

/** The pages of a PDF file. */
export class Pages {
  private at: { engine: PageEngine; file: number } | null = null;
  private fault: Error | null = null;
  private holders = 0;
  private isOpened = false;

  /** @param url where the document is fetched from */
  constructor(
    private readonly url: string,
    private readonly engines: Engines,
  ) {}

  /** Whether nothing more comes of it: whoever opens the document again begins anew. */
  get isOver() {
    return this.fault !== null;
  }

  /** Whether it is looked at. */
  get isHeld() {
    return this.holders > 0;
  }

  /** Whether it is looked at, or about to be. */
  get isWanted() {
    return this.isHeld || this.isOpened;
  }

  /** Says that it is looked at, until it is let go. */
  hold() {
    this.holders++;
  }

  letGo() {
    this.holders--;
    this.isOpened = false;
  }

  /** Opens a page before anybody wants its tiles: reading what it draws takes longer than drawing it, and can go on beside all that the bench does. */
  open(page: number, marks: boolean) {
    if (this.at || this.fault) return;
    this.isOpened = true;
    const { engine, file } = this.begin();
    engine.open(file, page, marks);
  }

  /** Draws a part of a page. */
  async tile(tile: TileOfPage, change: Change | null, stop: AbortSignal): Promise<ImageBitmap> {
    if (this.fault) throw this.fault;
    const { engine, file } = this.at ?? this.begin();
    return engine.tile(file, tile, change, stop);
  }

  /** Closes the file; whoever waits is told why. */
  end(words: string) {
    const { at } = this;
    this.over(new Error(words));
    if (!at) return;
    at.engine.close(at.file, this.fault!);
    this.engines.spare(at.engine, words);
  }

  /** Nothing more comes of it. */
  over(fault: Error) {
    this.fault = fault;
    this.at = null;
  }

  private begin() {
    const engine = this.engines.free();
    const at = (this.at = { engine, file: engine.take(this) });
    void fetchFile(this.url, () => undefined, new AbortController().signal)
      .then((bytes) => at.engine.give(at.file, bytes))
      .catch(() => this.end("The file could not be fetched; what you see is the picture the server prepared."));
    return at;
  }
}

/** Files held open: going from one item to the next and back should not open them anew. */
const MOST_OPEN = 2;

/** The files whose pages were looked at last. */
export class OpenFiles {
  private readonly open = new Map<string, Pages>();

  constructor(private readonly engines: Engines) {}

  /** The pages of a document, by its address. */
  pages(url: string): Pages {
    const before = this.open.get(url);
    const known = before && !before.isOver ? before : new Pages(url, this.engines);
    this.open.delete(url);
    this.open.set(url, known);
    for (const [old, pages] of this.open) {
      if (this.open.size <= MOST_OPEN) break;
      if (pages === known || pages.isHeld) continue;
      this.open.delete(old);
      pages.end("The file was closed to make room for others; what you see is not sharp.");
    }
    return known;
  }
}
