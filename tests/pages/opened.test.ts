import assert from "node:assert/strict";
import { afterEach, beforeEach, mock, test } from "node:test";
import { keepFormToken } from "../../web/src/api/client";
import { tellOpened, tellPending } from "../../web/src/bench/opened";

let told: string[] = [];
/** What the server answers, in turn; null where the line is dead. After that it is done. */
let answers: (number | null)[] = [];
const before = globalThis.fetch;

beforeEach(() => {
  mock.timers.enable({ apis: ["setTimeout"] });
  told = [];
  globalThis.fetch = ((address: string) => {
    told.push(address.split("/")[3]!);
    const status = answers.length > 0 ? answers.shift()! : 204;
    if (status === null) return Promise.reject(new TypeError("no line"));
    return Promise.resolve(new Response(status === 204 ? null : "{}", { status }));
  }) as typeof fetch;
});
afterEach(() => {
  mock.timers.reset();
  globalThis.fetch = before;
});

const rest = async () => {
  for (let i = 0; i < 5; i++) await new Promise((done) => setImmediate(done));
};

test("that a draft was opened is told until the server knows it, however long the line is dead", async () => {
  answers = [null, 503, null];
  tellOpened("a");
  for (const after of [1000, 2000, 4000]) {
    await rest();
    mock.timers.tick(after);
  }
  await rest();
  assert.deepEqual(told, ["a", "a", "a", "a"]);
  mock.timers.tick(60_000);
  await rest();
  assert.equal(told.length, 4);
});

test("what may not be opened is told once", async () => {
  answers = [404];
  tellOpened("b");
  await rest();
  mock.timers.tick(60_000);
  await rest();
  assert.deepEqual(told, ["b"]);
});

test("who signs has what is still to be told told first, and nothing else", async () => {
  answers = [null, 204, null];
  tellOpened("c");
  tellOpened("d");
  await rest();
  await assert.rejects(tellPending(["c", "d", "e"]), /cannot be reached/);
  assert.deepEqual(told, ["c", "d", "c"]);
  await tellPending(["c", "d", "e"]);
  assert.deepEqual(told, ["c", "d", "c", "c"]);
  mock.timers.tick(1000);
  await rest();
  await tellPending(["c"]);
  assert.deepEqual(told, ["c", "d", "c", "c", "c"]);
});

test("what is prepared anew while it is being told is told again", async () => {
  tellOpened("f");
  tellOpened("f");
  await rest();
  assert.deepEqual(told, ["f", "f"]);
});

test("what one has opened is never told in the name of who is at the page afterwards", async () => {
  keepFormToken("", "Maren");
  answers = [null, 401];
  tellOpened("g");
  await rest();
  // Signed out, and not yet anybody else: it goes on when Maren is back.
  keepFormToken("", null);
  mock.timers.tick(1000);
  await rest();
  assert.deepEqual(told, ["g", "g"]);
  keepFormToken("", "Teodor");
  await tellPending(["g"]);
  mock.timers.tick(60_000);
  await rest();
  assert.deepEqual(told, ["g", "g"]);
  keepFormToken("", null);
});
