import wasmUrl from "@embedpdf/pdfium/pdfium.wasm?url";
import { Engines, OpenFiles, type Pages } from "./pages";
import type { Asked } from "./pageWorker";

const engines = new Engines(() => {
  const worker = new Worker(new URL("./pageWorker.ts", import.meta.url), { type: "module" });
  worker.postMessage({ wasmUrl } satisfies Asked);
  return worker;
});
const files = new OpenFiles(engines);

/** Makes an engine ready, for whoever is about to look at pages, before anybody knows which file it is for. */
export const warmPages = () => void engines.free();

/** The pages of a document, by its address. */
export const openPages = (url: string): Pages => files.pages(url);
