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
