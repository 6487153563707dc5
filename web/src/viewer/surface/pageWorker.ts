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
  | { file: ArrayBuffer }
  | { id: number; open: { page: number; marks: boolean } }
  | { id: number; tile: TileOfPage; change: (LayerSwitch & { hidden: readonly string[] }) | null }
  | { cancel: number };
/**
 * What becomes of a tile, or of a page that is opened before anybody wants one of its tiles: first that it is being worked on, which waits where a
 * font is fetched for it; then its picture, or why there is none.
 */
export type Drawn =
  | { id: number; isBusy: boolean }
  | { id: number; isOpen: true }
  | { id: number; bitmap: ImageBitmap }
  | { id: number; fault: string; isOver: boolean };

type Tile = Extract<Asked, { tile: unknown }>;
type Opening = Extract<Asked, { open: unknown }>;

/** Bytes the engine may have: a file that wants more is not drawn here. */
const MOST_MEMORY = 768 * 1024 * 1024;
/** FPDFBitmap_BGRx, and FPDF_RenderPageBitmap's flags: annotations too, and the bytes as red, green, blue. */
const BITMAP = 3;
const WITH_MARKS = 0x01;
const RED_FIRST = 0x10;
/** Pages held open: opening one reads all it draws. */
const MOST_PAGES = 3;

// The engine would grow as far as the browser lets it.
const grow = WebAssembly.Memory.prototype.grow;
WebAssembly.Memory.prototype.grow = function (pages: number) {
  if (this.buffer.byteLength + pages * 65536 > MOST_MEMORY) throw new RangeError("More than a file may have.");
  return grow.call(this, pages);
};

let engine: WrappedPdfiumModule | null = null;
let source: Uint8Array | null = null;
let document = 0;
/** Keeps the document's form: what stands in its fields is drawn apart from a page and its annotations. No script runs. */
let fields = 0;
let bytesAt = 0;
let shown = "";
/** Pages held open, by their index, and whether with their marks. */
const pages = new Map<string, number>();
const queue: (Tile | Opening)[] = [];

self.onmessage = (e: MessageEvent<Asked>) => {
  const asked = e.data;
  if ("wasmUrl" in asked) void start(asked.wasmUrl);
  else if ("file" in asked) {
    source = new Uint8Array(asked.file);
    next();
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
  if (isTurning || queue.length === 0 || !engine || !source) return;
  isTurning = true;
  setTimeout(() => {
    isTurning = false;
    const asked = queue.shift();
    if (asked) work(asked);
    next();
  });
}

function tell(drawn: Drawn) {
  if ("bitmap" in drawn) self.postMessage(drawn, { transfer: [drawn.bitmap] });
  else self.postMessage(drawn);
}

function work(asked: Tile | Opening) {
  const { id } = asked;
  atWork = id;
  tell({ id, isBusy: true });
  try {
    if ("tile" in asked) {
      const { tile, change } = asked;
      demand(change);
      const pixels = drawn(tile);
      void createImageBitmap(new ImageData(pixels, tile.tileWidth, tile.tileHeight)).then((made) =>
        tell({ id, bitmap: made }),
      );
      return;
    }
    // With layers switched, what is wanted next is of another reading of the file.
    if (document === 0 || shown === AS_IT_IS) {
      demand(null);
      pageAt(asked.open.page, asked.open.marks);
    }
    tell({ id, isOpen: true });
  } catch {
    // Out of memory or broken within: nothing the engine says after that can be trusted.
    tell({
      id,
      fault: "This page could not be drawn sharply; what you see is the picture the server prepared.",
      isOver: true,
    });
  }
}

/** A part of a page, drawn. */
function drawn({ page: index, marks, width, height, x, y, tileWidth, tileHeight }: TileOfPage) {
  const e = engine!;
  const heap = e.pdfium;
  const page = pageAt(index, marks);
  const bytes = tileWidth * tileHeight * 4;
  const at = heap.wasmExports.malloc(bytes);
  if (at === 0) throw new Error("no memory");
  const bitmap = e.FPDFBitmap_CreateEx(tileWidth, tileHeight, BITMAP, at, tileWidth * 4);
  e.FPDFBitmap_FillRect(bitmap, 0, 0, tileWidth, tileHeight, 0xffffffff);
  e.FPDF_RenderPageBitmap(bitmap, page, -x, -y, width, height, 0, WITH_MARKS | RED_FIRST);
  if (fields !== 0) e.FPDF_FFLDraw(fields, bitmap, page, -x, -y, width, height, 0, WITH_MARKS | RED_FIRST);
  const pixels = new Uint8ClampedArray(bytes);
  pixels.set(bytesOf(e).subarray(at, at + bytes));
  const words = new Uint32Array(pixels.buffer);
  for (let i = 0; i < words.length; i++) words[i]! |= 0xff000000;
  e.FPDFBitmap_Destroy(bitmap);
  heap.wasmExports.free(at);
  return pixels;
}

/** How the file is shown where nobody has switched a layer. */
const AS_IT_IS = "as it is";

/** Opens the file, with the layers switched as asked. */
function demand(change: Tile["change"]) {
  const wanted = change ? `hidden ${change.hidden.join(" ")}` : AS_IT_IS;
  if (document !== 0 && wanted === shown) return;
  const e = engine!;
  for (const page of pages.values()) close(page);
  pages.clear();
  if (fields !== 0) e.PDFiumExt_ExitFormFillEnvironment(fields);
  fields = 0;
  if (document !== 0) e.FPDF_CloseDocument(document);
  if (bytesAt !== 0) e.pdfium.wasmExports.free(bytesAt);
  const update = change ? latin1(change.head + change.hidden.join(" ").padEnd(change.room) + change.tail) : null;
  const length = source!.length + (update?.length ?? 0);
  bytesAt = e.pdfium.wasmExports.malloc(length);
  if (bytesAt === 0) throw new Error("no memory");
  bytesOf(e).set(source!, bytesAt);
  if (update) bytesOf(e).set(update, bytesAt + source!.length);
  document = e.FPDF_LoadMemDocument(bytesAt, length, "");
  if (document === 0) throw new Error("not opened");
  fields = e.PDFiumExt_InitFormFillEnvironment(document, e.PDFiumExt_OpenFormFillInfo());
  shown = wanted;
}

function pageAt(index: number, marks: boolean): number {
  const key = `${index} ${marks}`;
  const known = pages.get(key);
  if (known !== undefined) return known;
  const e = engine!;
  const page = e.FPDF_LoadPage(document, index);
  if (page === 0) throw new Error("no page");
  if (!marks) unmark(page);
  pages.set(key, page);
  for (const [old, handle] of pages) {
    if (pages.size <= MOST_PAGES) break;
    pages.delete(old);
    close(handle);
  }
  return page;
}

function close(page: number) {
  if (fields !== 0) engine!.FORM_OnBeforeClosePage(page, fields);
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
