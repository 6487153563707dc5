import assert from "node:assert/strict";
import { afterEach, beforeEach, test } from "node:test";
import type { EngineWorker } from "../../web/src/viewer/surface/pageEngine";
import { Engines, OpenFiles } from "../../web/src/viewer/surface/pages";
import type { Asked, Drawn } from "../../web/src/viewer/surface/pageWorker";

const before = globalThis.fetch;
/** A worker that draws nothing: what it was asked, and what it is made to tell. */
class Fake implements EngineWorker {
  onmessage: EngineWorker["onmessage"] = null;
  onerror: EngineWorker["onerror"] = null;
  readonly asked: Asked[] = [];
  isEnded = false;
  postMessage(asked: unknown) {
    this.asked.push(asked as Asked);
  }
  terminate() {
    this.isEnded = true;
  }
  tell(data: Drawn) {
    this.onmessage?.call(this as never, { data } as MessageEvent<Drawn>);
  }
  /** The part of a page that it was asked for last. */
  get last() {
    return this.asked.filter((a) => "tile" in a).at(-1)!;
  }
  get closed() {
    return this.asked.filter((a) => "close" in a).length;
  }
}

let workers: Fake[] = [];
let files = new OpenFiles(new Engines(() => new Fake()));
const part = { page: 0, marks: true, width: 9, height: 9, x: 0, y: 0, tileWidth: 9, tileHeight: 9 };
const never = new AbortController().signal;
const picture = { close: () => undefined } as ImageBitmap;

/** Somebody looks at a file: its first part is asked for and comes. */
async function look(url: string, memory = 1000) {
  const pages = files.pages(url);
  pages.hold();
  const coming = pages.tile(part, null, never);
  const worker = workers.find(
    (w) => !w.isEnded && w.asked.some((a) => "tile" in a && a === w.last) && !told.has(w.last),
  )!;
  told.add(worker.last);
  worker.tell({ id: worker.last.id, bitmap: picture, memory });
  assert.equal(await coming, picture);
  return { pages, worker };
}
let told = new Set<Asked>();

beforeEach(() => {
  globalThis.fetch = (() => Promise.resolve(new Response(new Uint8Array([1])))) as typeof fetch;
  workers = [];
  told = new Set();
  files = new OpenFiles(
    new Engines(() => {
      workers.push(new Fake());
      return workers.at(-1)!;
    }),
  );
});
afterEach(() => {
  globalThis.fetch = before;
});

test("whoever goes from one file to the next has both in one engine, and the first again at once", async () => {
  const a = await look("a");
  a.pages.letGo();
  const b = await look("b");
  b.pages.letGo();
  assert.equal(workers.length, 1);
  assert.equal(files.pages("a"), a.pages);
  await look("a");
  // The third closes the one that was looked at longest ago.
  a.pages.letGo();
  await look("c");
  assert.deepEqual([workers.length, a.worker.closed, b.pages.isOver, a.pages.isOver], [1, 1, true, false]);
});

test("two files side by side have an engine each, and one that ends harms the other in nothing", async () => {
  const a = await look("a");
  const b = await look("b");
  assert.equal(workers.length, 2);
  const coming = b.pages.tile(part, null, never);
  b.worker.tell({ id: b.worker.last.id, fault: "Broken within.", isOver: true });
  await assert.rejects(coming, /Broken within/);
  assert.deepEqual([a.worker.isEnded, b.worker.isEnded, a.pages.isOver, b.pages.isOver], [false, true, false, true]);
  // Whoever loads it again has it anew, in an engine of its own.
  b.pages.letGo();
  await look("b");
  assert.equal(workers.length, 3);
});

test("a file that is about to be shown is not given away, nor one that is looked at closed", () => {
  files.pages("a").open(0, true);
  files.pages("b").open(0, true);
  assert.equal(workers.length, 2);
  const shown = [files.pages("a"), files.pages("b"), files.pages("c")];
  for (const one of shown) one.hold();
  files.pages("d");
  assert.deepEqual(
    shown.map((p) => p.isOver),
    [true, false, false],
    "only the one that was not looked at when the third came",
  );
});

test("an engine that has grown large is given no other file, and ends with its last", async () => {
  const a = await look("a", 300 << 20);
  a.pages.letGo();
  const b = await look("b");
  assert.equal(workers.length, 2);
  b.pages.letGo();
  await look("c");
  assert.deepEqual([a.pages.isOver, a.worker.isEnded, workers.length], [true, true, 2]);
});

test("a file that cannot be fetched is told to whoever waits, and the engine stays for others", async () => {
  globalThis.fetch = (() =>
    Promise.resolve(
      new Response(JSON.stringify({ title: "There is none.", code: "missing" }), { status: 404 }),
    )) as typeof fetch;
  const pages = files.pages("a");
  await assert.rejects(pages.tile(part, null, never), /could not be fetched/);
  assert.deepEqual([pages.isOver, workers.length, workers[0]!.isEnded], [true, 1, false]);
});
