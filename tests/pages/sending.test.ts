import assert from "node:assert/strict";
import { afterEach, beforeEach, mock, test } from "node:test";
import { sendAndRead } from "../../web/src/upload/sending";

const file = { name: "TO-1.dxf" } as File;
const before = { fetch: globalThis.fetch, request: globalThis.XMLHttpRequest };
/** What comes of each sending and each asking, in turn; null where the line breaks. */
let sendings: (string | null)[];
let askings: (string | null)[];
let asked: string[];

/** A request as the browser makes it, as far as sending a file needs one. */
class Request {
  status = 200;
  responseText = "";
  readonly upload = { onprogress: (_: { total: number; loaded: number }) => undefined };
  onload = () => undefined;
  onerror = () => undefined;
  onabort = () => undefined;
  open = () => undefined;
  setRequestHeader = () => undefined;
  abort = () => this.onabort();
  send() {
    asked.push("sent");
    const state = sendings.shift() ?? null;
    setImmediate(() => {
      this.upload.onprogress({ total: 4, loaded: 2 });
      if (state === null) return this.onerror();
      this.responseText = JSON.stringify({ id: "u1", state });
      return this.onload();
    });
  }
}

beforeEach(() => {
  mock.timers.enable({ apis: ["setTimeout"] });
  asked = [];
  globalThis.XMLHttpRequest = Request as unknown as typeof XMLHttpRequest;
  globalThis.fetch = (() => {
    asked.push("asked");
    const state = askings.shift() ?? null;
    return state === null
      ? Promise.reject(new TypeError("Failed to fetch"))
      : Promise.resolve(new Response(JSON.stringify({ id: "u1", state })));
  }) as typeof fetch;
});
afterEach(() => {
  mock.timers.reset();
  globalThis.fetch = before.fetch;
  globalThis.XMLHttpRequest = before.request;
});

/** Sends it, lets time pass until that is over, and gives how it ended. */
async function sent(stop = new AbortController(), most = 200) {
  const shares: number[] = [];
  const states: string[] = [];
  let end: string | null = null;
  sendAndRead(
    file,
    (share) => shares.push(share),
    ({ state }) => states.push(state),
    stop.signal,
  ).then(
    ({ state }) => (end = state),
    (e: Error) => (end = e.name === "AbortError" ? e.name : e.message),
  );
  for (let i = 0; i < most && !end; i++) {
    for (let k = 0; k < 6; k++) await new Promise((done) => setImmediate(done));
    mock.timers.tick(250);
  }
  return { end, shares, states };
}

test("what breaks off while it is sent is sent anew; once it has arrived it is only asked for, however the line breaks", async () => {
  sendings = [null, "waiting"];
  askings = ["reading", null, null, "read"];
  const { end, shares, states } = await sent();
  assert.equal(end, "read");
  assert.deepEqual(asked, ["sent", "sent", "asked", "asked", "asked", "asked"]);
  assert.deepEqual(shares, [0, 0.5, 0, 0.5]);
  assert.deepEqual(states, ["waiting", "reading"]);
});

test("a line that stays dead is said in words", async () => {
  sendings = [];
  askings = [];
  const { end } = await sent();
  assert.match(end ?? "", /^The upload broke off\./);
  assert.equal(asked.length, 5);
});

test("what is cancelled while the line is dead is not sent again", async () => {
  sendings = [];
  askings = [];
  const stop = new AbortController();
  const ending = sent(stop);
  await new Promise((done) => setImmediate(done));
  await new Promise((done) => setImmediate(done));
  stop.abort();
  assert.equal((await ending).end, "AbortError");
  assert.deepEqual(asked, ["sent"]);
});
