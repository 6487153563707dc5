import assert from "node:assert/strict";
import { afterEach, beforeEach, mock, test } from "node:test";
import { fetchFile } from "../../web/src/viewer/surface/fetchFile";

const before = globalThis.fetch;
let asked = 0;

/** Has the server answer so, in turn; the last for ever. */
function answers(...each: (() => Response)[]) {
  asked = 0;
  globalThis.fetch = ((_: string, { signal }: RequestInit) => {
    if (signal?.aborted) return Promise.reject(new DOMException("", "AbortError"));
    try {
      return Promise.resolve(each[Math.min(asked++, each.length - 1)]!());
    } catch (e) {
      return Promise.reject(e as Error);
    }
  }) as typeof fetch;
}
const dead = () => {
  throw new TypeError("Failed to fetch");
};
const whole = () => new Response(new Uint8Array([1, 2, 3, 4]), { headers: { "X-Froe-Size": "4" } });
/** Two of four bytes, then the line breaks. */
const half = () => {
  let isFirst = true;
  const body = new ReadableStream<Uint8Array>({
    pull(to) {
      if (isFirst) to.enqueue(new Uint8Array([1, 2]));
      else to.error(new TypeError("network error"));
      isFirst = false;
    },
  });
  return new Response(body, { headers: { "X-Froe-Size": "4" } });
};
const refused = (status: number, title: string) => () =>
  new Response(JSON.stringify({ title, code: "told" }), { status });

beforeEach(() => mock.timers.enable({ apis: ["setTimeout"] }));
afterEach(() => {
  mock.timers.reset();
  globalThis.fetch = before;
});

/** Lets time pass until it is over, and gives how that ended. */
async function ended<T>(work: Promise<T>) {
  let end: { value: T } | { fault: Error } | null = null;
  work.then(
    (value) => (end = { value }),
    (fault: Error) => (end = { fault }),
  );
  for (let i = 0; i < 40 && !end; i++) {
    for (let k = 0; k < 5; k++) await new Promise((done) => setImmediate(done));
    mock.timers.tick(500);
  }
  return end!;
}

test("a file is asked for again where the line breaks before it or in the middle, and comes whole", async () => {
  answers(dead, half, refused(503, "The database is away."), whole);
  const shares: number[] = [];
  const end = await ended(fetchFile("/f", (share) => shares.push(share), new AbortController().signal));
  assert.deepEqual("value" in end && [...new Uint8Array(end.value)], [1, 2, 3, 4]);
  assert.equal(asked, 4);
  assert.deepEqual(shares, [0.5, 1]);
});

test("a line that stays dead is said in words, after four tries", async () => {
  answers(dead);
  const end = await ended(fetchFile("/f", () => undefined, new AbortController().signal));
  assert.match("fault" in end ? end.fault.message : "", /^The server cannot be reached\./);
  assert.equal(asked, 4);
});

test("what is refused is asked for once, and says the server's own words", async () => {
  answers(refused(404, "There is no such draft."));
  const end = await ended(fetchFile("/f", () => undefined, new AbortController().signal));
  assert.equal("fault" in end && end.fault.message, "There is no such draft.");
  assert.equal(asked, 1);
});

test("what is not wanted any more is not asked for again", async () => {
  answers(dead);
  const stop = new AbortController();
  const work = fetchFile("/f", () => undefined, stop.signal);
  await new Promise((done) => setImmediate(done));
  stop.abort();
  const end = await ended(work);
  assert.equal("fault" in end && end.fault.name, "AbortError");
  assert.equal(asked, 1);
});
