// The front end in headless Chromium: bytes, paints, shifts, presses and memory, as JSON on standard output.
import { launch } from "./house.mjs";

const [base] = process.argv.slice(2);
const browser = await launch();

/** A window of its own, signed in or not, with nothing in its cache. */
async function open(state) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, storageState: state });
  const page = await context.newPage();
  const devtools = await context.newCDPSession(page);
  await devtools.send("Network.enable");
  await devtools.send("Emulation.setCPUThrottlingRate", { rate: 4 });
  await page.addInitScript(() => {
    window.seen = { paint: 0, shift: 0, press: 0, own: 0, picture: 0 };
    const watch = (type, each, more = {}) =>
      new PerformanceObserver((list) => list.getEntries().forEach(each)).observe({ type, buffered: true, ...more });
    watch("largest-contentful-paint", (e) => (window.seen.paint = e.startTime));
    watch("layout-shift", (e) => !e.hadRecentInput && (window.seen.shift += e.value));
    watch("event", (e) => e.interactionId && (window.seen.press = Math.max(window.seen.press, e.duration)), {
      durationThreshold: 16,
    });
    // What the page itself does for a press: its script, and laying out and painting the frame that follows.
    const from = (e) =>
      requestAnimationFrame(() => {
        const after = new MessageChannel();
        after.port1.onmessage = () => (window.seen.own = Math.max(window.seen.own, performance.now() - e.timeStamp));
        after.port2.postMessage(null);
      });
    for (const type of ["keydown", "click"]) window.addEventListener(type, from, { capture: true });
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
  const { context, page, wire } = await open(as);
  await page.goto(base + path);
  await page.locator("h1").first().waitFor();
  await quiet(page);
  const first = { ...wire };
  await page.goto("about:blank");
  Object.assign(wire, { script: 0, all: 0 });
  await page.goto(base + path);
  await page.locator("h1").first().waitFor();
  await quiet(page);
  const { paint, shift } = await page.evaluate(() => window.seen);
  places.push({
    name,
    script: first.script,
    all: first.all,
    scriptAgain: wire.script,
    allAgain: wire.all,
    paint,
    shift,
  });
  await context.close();
}

const presses = [];
let opened = 0;
{
  const { page, context } = await open(state);
  const press = async (name, act) => {
    await page.evaluate(() => (window.seen.press = window.seen.own = 0));
    await act();
    await page.waitForTimeout(900);
    presses.push({ name, ...(await page.evaluate(() => ({ ms: window.seen.press, own: window.seen.own }))) });
  };
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
  const pressed = await page.evaluate(() => performance.now());
  await page.keyboard.press("Enter");
  await page.locator("[data-sharp=true]").first().waitFor();
  opened = (await page.evaluate(() => window.seen.picture)) - pressed;
  await quiet(page);
  await press("a verdict", () => page.keyboard.press("1"));
  await press("next item", () => page.keyboard.press("n"));
  await press("a tool", () => page.keyboard.press("c"));
  await press("another sheet beside", () => page.keyboard.press("b"));
  await press("change the route", () => page.getByRole("button", { name: "Change the route" }).click());
  await context.close();
}

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
