// The front end in headless Chromium: bytes, paints, shifts, presses and memory, as JSON on standard output.
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { launch, median, settle } from "./house.mjs";
import { pressed } from "./pressed.mjs";

const [base] = process.argv.slice(2);
const browser = await launch();

/** How often a place is visited, and how many of the last of these count: a browser keeps a script translated from the third time on. */
const VISITS = 5;
const COUNTED = 3;
/** How often the presses are gone through. */
const ROUNDS = 3;

/** Watches a page of a context, slowed four times. */
async function watch(context) {
  const page = await context.newPage();
  const devtools = await context.newCDPSession(page);
  await devtools.send("Network.enable");
  await devtools.send("Emulation.setCPUThrottlingRate", { rate: 4 });
  await page.addInitScript(() => {
    window.seen = { paint: 0, shift: 0, picture: 0 };
    const watch = (type, each, more = {}) =>
      new PerformanceObserver((list) => list.getEntries().forEach(each)).observe({ type, buffered: true, ...more });
    watch("largest-contentful-paint", (e) => (window.seen.paint = e.startTime));
    watch("layout-shift", (e) => !e.hadRecentInput && (window.seen.shift += e.value));
    document.addEventListener(
      "load",
      (e) => e.target.src?.includes("/picture") && (window.seen.picture ||= performance.now()),
      { capture: true },
    );
  });
  // What came over the wire: nothing for what was in the cache.
  const wire = { script: 0, all: 0 };
  const kinds = new Map();
  devtools.on("Network.responseReceived", (e) => kinds.set(e.requestId, e));
  devtools.on("Network.loadingFinished", (e) => {
    const of = kinds.get(e.requestId);
    if (!of || of.response.fromDiskCache) return;
    wire.all += e.encodedDataLength;
    if (of.type === "Script") wire.script += e.encodedDataLength;
  });
  return { context, page, devtools, wire };
}

/** A window of its own, signed in or not, with nothing in its cache. */
const open = async (state) =>
  watch(await browser.newContext({ viewport: { width: 1280, height: 800 }, storageState: state }));

async function signIn() {
  const { context, page } = await open(undefined);
  await page.goto(base);
  await page.evaluate(async () => {
    const token = (await (await fetch("/api/session")).json()).formToken;
    const answer = await fetch("/api/session", {
      method: "POST",
      headers: { "X-Froe-Form": token, "Content-Type": "application/json" },
      body: JSON.stringify({ login: "teodor", password: "tallowmere refit" }),
    });
    if (!answer.ok) throw new Error(await answer.text());
  });
  const desk = await page.evaluate(async () => await (await fetch("/api/desk")).json());
  const state = await context.storageState();
  await context.close();
  return { state, packages: [...desk.toSign, ...desk.waiting, ...desk.informed].map((r) => r.id) };
}

const quiet = async (page) => {
  await page.waitForLoadState("networkidle");
  await page.waitForTimeout(500);
};

const { state, packages } = await signIn();
const places = [];
for (const [name, path, as] of [
  ["sign-in", "/", undefined],
  ["desk", "/", state],
  ["bench", `/packages/${packages[0]}`, state],
  ["register", "/register", state],
  ["notes", "/notes", state],
  ["turnaround", "/turnaround", state],
  ["ledger", "/ledger", state],
  ["post", "/post", state],
]) {
  // A browser of its own with a profile on the disk, as people have: what it keeps between visits counts.
  const profile = mkdtempSync(join(tmpdir(), "froe-visits-"));
  const context = await settle(profile);
  if (as) await context.addCookies(as.cookies);
  const visits = [];
  for (let i = 0; i < VISITS; i++) {
    const { page, wire } = await watch(context);
    await page.goto(base + path);
    await page.locator("h1").first().waitFor();
    await quiet(page);
    visits.push({ ...(await page.evaluate(() => window.seen)), script: wire.script, all: wire.all });
    await page.close();
  }
  await context.close();
  rmSync(profile, { recursive: true, force: true });
  const [first] = visits;
  const again = visits.slice(-COUNTED);
  places.push({
    name,
    script: first.script,
    all: first.all,
    scriptAgain: again[0].script,
    allAgain: again[0].all,
    paint: median(again.map((v) => v.paint)),
    shift: Math.max(...visits.map((v) => v.shift)),
  });
}

const rounds = new Map();
const openings = [];
for (let round = 0; round < ROUNDS; round++) {
  const { page, context, devtools } = await open(state);
  const press = async (name, act) =>
    rounds.set(name, [...(rounds.get(name) ?? []), await pressed(page, devtools, act)]);
  await page.goto(base);
  await page.locator("[data-row]").first().waitFor();
  await quiet(page);
  await press("next row of the desk", () => page.keyboard.press("ArrowDown"));
  await press("find or do", () => page.keyboard.press("Control+k"));
  await press("a letter in it", () => page.keyboard.press("p"));
  await press("closing it", () => page.keyboard.press("Escape"));
  await press("the keys", () => page.keyboard.press("?"));
  await page.keyboard.press("Escape");
  await page.locator(`[data-row="${packages[0]}"]`).focus();
  await quiet(page);
  await page.evaluate(() => (window.seen.picture = 0));
  const from = await page.evaluate(() => performance.now());
  await page.keyboard.press("Enter");
  await page.locator("[data-sharp=true]").first().waitFor();
  openings.push((await page.evaluate(() => window.seen.picture)) - from);
  await quiet(page);
  await press("a verdict", () => page.keyboard.press("1"));
  await press("next item", () => page.keyboard.press("n"));
  await press("a tool", () => page.keyboard.press("c"));
  await press("another sheet beside", () => page.keyboard.press("b"));
  await press("change the route", () => page.getByRole("button", { name: "Change the route" }).click());
  await context.close();
}
const presses = [...rounds].map(([name, all]) => ({
  name,
  own: median(all.map((p) => p.own)),
  shown: median(all.map((p) => p.shown)),
}));
const opened = median(openings);

const { page, devtools } = await open(state);
await devtools.send("Emulation.setCPUThrottlingRate", { rate: 1 });
await devtools.send("Performance.enable");
await page.goto(base);
await page.locator("h1").first().waitFor();
const heap = async () => {
  await devtools.send("HeapProfiler.collectGarbage");
  const { metrics } = await devtools.send("Performance.getMetrics");
  return metrics.find((m) => m.name === "JSHeapUsedSize").value;
};
let heapBefore = 0;
for (let i = 0; i < 200; i++) {
  await page.evaluate(
    (to) => {
      window.history.pushState({}, "", to);
      window.dispatchEvent(new PopStateEvent("popstate"));
    },
    `/packages/${packages[i % packages.length]}`,
  );
  await page.locator("h1").first().waitFor();
  await page.waitForTimeout(120);
  if (i === 9) heapBefore = await heap();
}
console.log(JSON.stringify({ places, presses, opened, heapBefore, heapAfter: await heap() }));
await browser.close();
