import assert from "node:assert/strict";
import { test } from "node:test";
import { api, Refusal } from "../../web/src/api/client";

test("what the page tells by itself interrupts nobody whose session has ended; what is pressed does", async () => {
  let asked = 0;
  const page = new EventTarget();
  page.addEventListener("froe-signed-out", () => asked++);
  Object.assign(globalThis, {
    window: page,
    fetch: () => Promise.resolve(new Response("{}", { status: 401 })),
  });
  const views = { views: [] };
  const ended = (e: unknown) => e instanceof Refusal && e.status === 401;
  await assert.rejects(api.tell("/drafts/1/leaves/0/seen", views), ended);
  assert.equal(asked, 0);
  await assert.rejects(api.post("/drafts/1/leaves/0/seen", views), ended);
  assert.equal(asked, 1);
  // With the session its form token is gone too: it is asked for anew, and found to be nobody's.
  Object.assign(globalThis, {
    fetch: (path: string) =>
      Promise.resolve(
        path === "/api/session"
          ? new Response('{"person":null,"formToken":"x"}')
          : new Response('{"code":"stale-page"}', { status: 400 }),
      ),
  });
  const stale = (e: unknown) => e instanceof Refusal && e.code === "stale-page";
  await assert.rejects(api.tell("/drafts/1/leaves/0/seen", views), stale);
  assert.equal(asked, 1);
});

test("what was asked for ahead is given once to whoever asks for it, and not when it has become old", async () => {
  const asked: string[] = [];
  Object.assign(globalThis, {
    window: new EventTarget(),
    fetch: (path: string) => Promise.resolve(new Response(JSON.stringify({ path, n: asked.push(path) }))),
  });
  const answer = (n: number) => ({ path: "/api/pins", n });
  void api.ahead("/pins");
  void api.ahead("/documents", { search: "pier" });
  assert.deepEqual(await api.get("/pins"), answer(1));
  assert.deepEqual(await api.get("/pins"), answer(3));
  // Another question of the same path is another.
  assert.deepEqual(await api.get("/documents", { search: "wall" }), { path: "/api/documents?search=wall", n: 4 });
  assert.deepEqual(await api.get("/documents", { search: "pier" }), { path: "/api/documents?search=pier", n: 2 });
  void api.ahead("/pins");
  api.forgetAhead();
  assert.deepEqual(await api.get("/pins"), answer(6));
});

test("what failed ahead is said to whoever asks for it, who may ask again", async () => {
  const answers = [503, 200];
  Object.assign(globalThis, {
    window: new EventTarget(),
    fetch: () => Promise.resolve(new Response("[]", { status: answers.shift()! })),
  });
  void api.ahead("/pins").catch(() => undefined);
  await assert.rejects(api.get("/pins"), (e: unknown) => e instanceof Refusal && e.status === 503);
  assert.deepEqual(await api.get("/pins"), []);
});
