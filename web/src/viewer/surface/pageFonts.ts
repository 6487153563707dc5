import type { WrappedPdfiumModule } from "@embedpdf/pdfium";

/** Seconds that a font is waited for, on the slowest line. */
const PATIENCE = 180_000;
/** FPDF_SYSFONTINFO: a version and eight functions, four bytes each. */
const VERSION = 1;
const FUNCTIONS = 8;

/** A font that stands in for one which a file leaves out, and the name by which the engine knows it again. */
type Font = { name: string; bytes: Uint8Array };

/**
 * Gives the engine fonts where it asks for one that is not in its file. Which stands in for which is the server's rule. The engine cannot wait,
 * so they are fetched while it stands still; this is a worker's.
 * @param onWait is told when it begins to wait for a font, and when it has it
 */
export function lendFonts(engine: WrappedPdfiumModule, onWait: (isWaiting: boolean) => void) {
  const heap = engine.pdfium;
  // Growing makes the engine's memory another: what is looked at is always the one of now.
  const bytes = () => (heap as unknown as { HEAPU8: Uint8Array }).HEAPU8;
  const lent: Font[] = [];
  const known = new Map<string, Font | null>();

  const fontOf = (face: string, charset: number, weight: number, italic: number) => {
    const asked = new URLSearchParams({ face, charset: `${charset}`, weight: `${weight}`, italic: `${italic !== 0}` });
    const key = asked.toString();
    if (!known.has(key)) {
      onWait(true);
      known.set(key, fetched(key));
      onWait(false);
    }
    return known.get(key)!;
  };
  const map = (_: number, weight: number, italic: number, charset: number, __: number, face: number) => {
    const font = fontOf(heap.UTF8ToString(face), charset, weight, italic);
    if (!font) return 0;
    const at = lent.findIndex((l) => l.name === font.name);
    return at >= 0 ? at + 1 : lent.push(font);
  };
  const give = (_: number, number: number, tag: number, at: number, room: number) => {
    const font = lent[number - 1];
    const part = font && (tag === 0 ? font.bytes : tableOf(font.bytes, tag >>> 0));
    if (!part) return 0;
    if (at !== 0 && room >= part.length) bytes().set(part, at);
    return part.length;
  };
  const giveName = (_: number, number: number, at: number, room: number) => {
    const font = lent[number - 1];
    if (!font) return 0;
    const name = new TextEncoder().encode(`${font.name}\0`);
    if (at !== 0 && room >= name.length) bytes().set(name, at);
    return name.length;
  };
  // Each its own, for one function has one place in the engine's table, by what it takes and gives.
  const nothing = () => () => undefined;
  const none = () => () => 0;
  // It asks no more, lists them, asks for one, asks by name alone, reads one, its name, its set of letters, is done with one.
  const functions = [
    heap.addFunction(nothing(), "vi"),
    heap.addFunction(nothing(), "vii"),
    heap.addFunction(map, "iiiiiiii"),
    heap.addFunction(none(), "iii"),
    heap.addFunction(give, "iiiiii"),
    heap.addFunction(giveName, "iiiii"),
    heap.addFunction(none(), "iii"),
    heap.addFunction(nothing(), "vii"),
  ];
  const told = heap.wasmExports.malloc((FUNCTIONS + 1) * 4);
  new Int32Array(bytes().buffer, told, FUNCTIONS + 1).set([VERSION, ...functions]);
  engine.FPDF_SetSystemFontInfo(told);
}

/** The font that stands in for what is asked for; null where the engine has better ones of its own. @throws when the line fails */
function fetched(asked: string): Font | null {
  const request = new XMLHttpRequest();
  request.open("GET", `/api/page-fonts?${asked}`, false);
  request.responseType = "arraybuffer";
  request.timeout = PATIENCE;
  request.send();
  if (request.status === 204) return null;
  if (request.status !== 200) throw new Error("A font could not be fetched.");
  return {
    name: request.getResponseHeader("X-Froe-Font") ?? asked,
    bytes: new Uint8Array(request.response as ArrayBuffer),
  };
}

/** A table of a font (ISO/IEC 14496-22, 4.3). @param tag its name's four letters as one number */
export function tableOf(font: Uint8Array, tag: number): Uint8Array | null {
  const view = new DataView(font.buffer, font.byteOffset, font.byteLength);
  for (let i = 0; i < view.getUint16(4); i++) {
    const entry = 12 + i * 16;
    if (view.getUint32(entry) === tag)
      return font.subarray(view.getUint32(entry + 8), view.getUint32(entry + 8) + view.getUint32(entry + 12));
  }
  return null;
}
