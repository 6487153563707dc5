import { init, type WrappedPdfiumModule } from "@embedpdf/pdfium";
import type { LayerSwitch } from "../../api/types";
import { lendFonts } from "./pageFonts";

/** A part of a page: the whole page is `width` × `height` pixels, the part begins at x, y from its upper left corner. */
export type TileOfPage = {
  page: number;
  /** Whether what others marked on it is drawn. */
  marks: boolean;
  width: number;
  height: number;
  x: number;
  y: number;
  tileWidth: number;
  tileHeight: number;
};
export type Asked =
  | { wasmUrl: string }
  | { file: number; bytes: ArrayBuffer }
  | { close: number }
  | { id: number; file: number; open: { page: number; marks: boolean } }
  | { id: number; file: number; tile: TileOfPage; change: (LayerSwitch & { hidden: readonly string[] }) | null }
  | { cancel: number };
/**
 * What becomes of a tile, or of a page that is opened before anybody wants one of its tiles: first that it is being worked on, which waits where a
 * font is fetched for it; then its picture, or why there is none. `memory` are the bytes that the engine has by then.
 */
export type Drawn =
  | { id: number; isBusy: boolean }
  | { id: number; isOpen: true; memory: number }
  | { id: number; bitmap: ImageBitmap; memory: number }
  | { id: number; fault: string; isOver: boolean };

type Tile = Extract<Asked, { tile: unknown }>;
type Opening = Extract<Asked, { open: unknown }>;

/** Bytes the engine may have for all its files: one that wants more is not drawn here. */
const MOST_MEMORY = 768 * 1024 * 1024;
/** FPDFBitmap_BGRx, and FPDF_RenderPageBitmap's flags: annotations too, and the bytes as red, green, blue. */
const BITMAP = 3;
const WITH_MARKS = 0x01;
const RED_FIRST = 0x10;
/** Pages of a file held open: opening one reads all it draws. */
const MOST_PAGES = 3;

// The engine would grow as far as the browser lets it.
const grow = WebAssembly.Memory.prototype.grow;
WebAssembly.Memory.prototype.grow = function (pages: number) {
  if (this.buffer.byteLength + pages * 65536 > MOST_MEMORY) throw new RangeError("More than a file may have.");
  return grow.call(this, pages);
};

let engine: WrappedPdfiumModule | null = null;
/** A file that has come. */
type Held = {
  /** Its bytes, until the engine has them. */
  source: Uint8Array | null;
  length: number;
  document: number;
  /** Keeps the document's form: what stands in its fields is drawn apart from a page and its annotations. No script runs. */
  fields: number;
  bytesAt: number;
  shown: string;
  /** Pages held open, by their index, and whether with their marks. */
  pages: Map<string, number>;
};
const files = new Map<number, Held>();
const queue: (Tile | Opening)[] = [];

self.onmessage = (e: MessageEvent<Asked>) => {
  const asked = e.data;
  if ("wasmUrl" in asked) void start(asked.wasmUrl);
  else if ("bytes" in asked) {
    const source = new Uint8Array(asked.bytes);
    const { length } = source;
    files.set(asked.file, { source, length, document: 0, fields: 0, bytesAt: 0, shown: "", pages: new Map() });
    next();
  } else if ("close" in asked) {
    for (let at = queue.length - 1; at >= 0; at--) if (queue[at]!.file === asked.close) queue.splice(at, 1);
    const held = files.get(asked.close);
    files.delete(asked.close);
    if (held) shut(held);
  } else if ("cancel" in asked) {
    const at = queue.findIndex((t) => t.id === asked.cancel);
    if (at >= 0) queue.splice(at, 1);
  } else {
    queue.push(asked);
    next();
  }
};

async function start(wasmUrl: string) {
  try {
    const made = await new Promise<WrappedPdfiumModule>((resolve, reject) => {
      // Compiled while it comes, and by the browser kept compiled for the next time.
      const instantiateWasm = (imports: WebAssembly.Imports, ready: (instance: WebAssembly.Instance) => void) => {
        const fetched = () => fetch(wasmUrl);
        WebAssembly.instantiateStreaming(fetched().catch(fetched), imports).then(
          ({ instance }) => ready(instance),
          reject,
        );
        return {};
      };
      init({ instantiateWasm } as Parameters<typeof init>[0]).then(resolve, reject);
    });
    made.FPDF_InitLibrary();
    lendFonts(made, (isWaiting) => tell({ id: atWork, isBusy: !isWaiting }));
    engine = made;
    next();
  } catch (e) {
    tell({ id: 0, fault: `The page engine could not be started (${(e as Error).message}).`, isOver: true });
  }
}

/** What is being worked on. */
let atWork = 0;
let isTurning = false;
/** One tile a turn, so that what is not wanted any more can be taken back in between. */
function next() {
  const isReady = (asked: Tile | Opening) => files.has(asked.file);
  if (isTurning || !engine || !queue.some(isReady)) return;
  isTurning = true;
  setTimeout(() => {
    const at = queue.findIndex(isReady);
    const done = at >= 0 ? work(queue.splice(at, 1)[0]!) : Promise.resolve();
    void done.then(() => {
      isTurning = false;
      next();
    });
  });
}

function tell(drawn: Drawn) {
  if ("bitmap" in drawn) self.postMessage(drawn, { transfer: [drawn.bitmap] });
  else self.postMessage(drawn);
}

async function work(asked: Tile | Opening) {
  const { id } = asked;
  const held = files.get(asked.file)!;
  atWork = id;
  tell({ id, isBusy: true });
  try {
    if ("tile" in asked) {
      const { tile, change } = asked;
      demand(held, change);
      tell({ id, bitmap: await drawn(held, tile), memory: memory() });
      return;
    }
    // With layers switched, what is wanted next is of another reading of the file.
    if (held.document === 0 || held.shown === AS_IT_IS) {
      demand(held, null);
      pageAt(held, asked.open.page, asked.open.marks);
    }
    tell({ id, isOpen: true, memory: memory() });
  } catch {
    // Out of memory or broken within: nothing the engine says after that can be trusted.
    tell({
      id,
      fault: "This page could not be drawn sharply; what you see is the picture the server prepared.",
      isOver: true,
    });
  }
}

const memory = () => bytesOf(engine!).length;

/** A part of a page, drawn. */
async function drawn(held: Held, { page: index, marks, width, height, x, y, tileWidth, tileHeight }: TileOfPage) {
  const e = engine!;
  const heap = e.pdfium;
  const page = pageAt(held, index, marks);
  const { fields } = held;
  const bytes = tileWidth * tileHeight * 4;
  const at = heap.wasmExports.malloc(bytes);
  if (at === 0) throw new Error("no memory");
  const bitmap = e.FPDFBitmap_CreateEx(tileWidth, tileHeight, BITMAP, at, tileWidth * 4);
  e.FPDFBitmap_FillRect(bitmap, 0, 0, tileWidth, tileHeight, 0xffffffff);
  e.FPDF_RenderPageBitmap(bitmap, page, -x, -y, width, height, 0, WITH_MARKS | RED_FIRST);
  if (fields !== 0) e.FPDF_FFLDraw(fields, bitmap, page, -x, -y, width, height, 0, WITH_MARKS | RED_FIRST);
  e.FPDFBitmap_Destroy(bitmap);
  // Taken from where they were drawn: nothing else is worked on until that is done.
  const { buffer } = bytesOf(e);
  const words = new Uint32Array(buffer, at, bytes / 4);
  for (let i = 0; i < words.length; i++) words[i]! |= 0xff000000;
  const pixels = new Uint8ClampedArray(buffer as ArrayBuffer, at, bytes);
  const made = await createImageBitmap(new ImageData(pixels, tileWidth, tileHeight));
  heap.wasmExports.free(at);
  return made;
}

/** How the file is shown where nobody has switched a layer. */
const AS_IT_IS = "as it is";

/** Opens the file, with the layers switched as asked. */
function demand(held: Held, change: Tile["change"]) {
  const wanted = change ? `hidden ${change.hidden.join(" ")}` : AS_IT_IS;
  if (held.document !== 0 && wanted === held.shown) return;
  const e = engine!;
  // Its bytes stand in one place only: of a large file they are much of what it takes.
  const source = held.source ?? bytesOf(e).slice(held.bytesAt, held.bytesAt + held.length);
  shut(held);
  const update = change ? latin1(change.head + change.hidden.join(" ").padEnd(change.room) + change.tail) : null;
  const length = source.length + (update?.length ?? 0);
  held.bytesAt = e.pdfium.wasmExports.malloc(length);
  if (held.bytesAt === 0) throw new Error("no memory");
  bytesOf(e).set(source, held.bytesAt);
  if (update) bytesOf(e).set(update, held.bytesAt + source.length);
  held.document = e.FPDF_LoadMemDocument(held.bytesAt, length, "");
  if (held.document === 0) throw new Error("not opened");
  held.fields = e.PDFiumExt_InitFormFillEnvironment(held.document, e.PDFiumExt_OpenFormFillInfo());
  held.source = null;
  held.shown = wanted;
}

/** Gives back what the engine has for a file. */
function shut(held: Held) {
  const e = engine;
  if (!e) return;
  for (const page of held.pages.values()) close(held, page);
  held.pages.clear();
  if (held.fields !== 0) e.PDFiumExt_ExitFormFillEnvironment(held.fields);
  if (held.document !== 0) e.FPDF_CloseDocument(held.document);
  if (held.bytesAt !== 0) e.pdfium.wasmExports.free(held.bytesAt);
  held.fields = held.document = held.bytesAt = 0;
}

function pageAt(held: Held, index: number, marks: boolean): number {
  const { pages } = held;
  const key = `${index} ${marks}`;
  const known = pages.get(key);
  if (known !== undefined) return known;
  const e = engine!;
  const page = e.FPDF_LoadPage(held.document, index);
  if (page === 0) throw new Error("no page");
  if (!marks) unmark(page);
  pages.set(key, page);
  for (const [old, handle] of pages) {
    if (pages.size <= MOST_PAGES) break;
    pages.delete(old);
    close(held, handle);
  }
  return page;
}

function close(held: Held, page: number) {
  if (held.fields !== 0) engine!.FORM_OnBeforeClosePage(page, held.fields);
  engine!.FPDF_ClosePage(page);
}

/** The engine's memory as it is now: growing makes it another. The package's types leave it out. */
const bytesOf = (e: WrappedPdfiumModule) => (e.pdfium as unknown as { HEAPU8: Uint8Array }).HEAPU8;

/** FPDF_ANNOT_LINK and _WIDGET: links draw nothing, and fields are part of the page. */
const KEPT = [2, 20];

/** Takes away what others marked, from the page as it is held open only. */
function unmark(page: number) {
  const e = engine!;
  for (let i = e.FPDFPage_GetAnnotCount(page) - 1; i >= 0; i--) {
    const mark = e.FPDFPage_GetAnnot(page, i);
    const kind = e.FPDFAnnot_GetSubtype(mark);
    e.FPDFPage_CloseAnnot(mark);
    if (!KEPT.includes(kind)) e.FPDFPage_RemoveAnnot(page, i);
  }
}

const latin1 = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
