// Two people on one sheet in headless Chromium, on a server with the demo; as JSON on standard output.
import { launch, median } from "./house.mjs";

const [base] = process.argv.slice(2);
const browser = await launch();

async function signedIn(login) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(base);
  await page.evaluate(async (login) => {
    const token = (await (await fetch("/api/session")).json()).formToken;
    const answer = await fetch("/api/session", {
      method: "POST",
      headers: { "X-Froe-Form": token, "Content-Type": "application/json" },
      body: JSON.stringify({ login, password: "tallowmere refit" }),
    });
    if (!answer.ok) throw new Error(await answer.text());
  }, login);
  return { context, page };
}
const ask = (page, method, path, body) =>
  page.evaluate(
    async ([method, path, body]) => {
      const token = (await (await fetch("/api/session")).json()).formToken;
      const answer = await fetch(`/api${path}`, {
        method,
        headers: { "X-Froe-Form": token, "Content-Type": "application/json" },
        body: body === undefined ? undefined : JSON.stringify(body),
      });
      if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
      const text = await answer.text();
      return text === "" ? null : JSON.parse(text);
    },
    [method, path, body],
  );

const one = await signedIn("teodor");
const other = await signedIn("odalys");
const desk = await ask(one.page, "GET", "/desk");
const pack = desk.toSign.find((k) => k.title.startsWith("Bearing housing")) ?? desk.toSign[0];
const { items } = await ask(one.page, "GET", `/packages/${pack.id}`);
const open = async (page) => {
  const from = performance.now();
  await page.goto(`${base}/packages/${pack.id}`);
  await page.waitForSelector("[data-sharp=true]", { timeout: 60_000 });
  return (performance.now() - from) / 1000;
};

// How soon a bench is there with nothing drawn on it, beside those that come later.
await open(one.page);
const none = [];
for (let i = 0; i < 5; i++) none.push(await open(one.page));

// One draws lines; the other's page notes when each is there. Both windows are of one machine and one clock.
await open(other.page);
await other.page.evaluate(() => {
  window.shown = [];
  const count = () => document.querySelectorAll("[data-testid=markups] > g").length;
  let last = count();
  new MutationObserver(() => {
    const now = count();
    for (; last < now; last++) window.shown.push(performance.timeOrigin + performance.now());
  }).observe(document.querySelector("[data-testid=markups]"), { childList: true });
});
await one.page.evaluate(() => {
  window.drawn = [];
  addEventListener("pointerup", () => window.drawn.push(performance.timeOrigin + performance.now()), true);
});
const box = await one.page.locator("[data-sharp]").boundingBox();
const COUNT = 60;
for (let i = 0; i < COUNT; i++) {
  await one.page.keyboard.press("l");
  const [x, y] = [box.x + 150 + 5 * i, box.y + 200];
  await one.page.mouse.move(x, y);
  await one.page.mouse.down();
  await one.page.mouse.move(x + 40, y + 120, { steps: 3 });
  await one.page.mouse.up();
  await other.page.waitForFunction((n) => window.shown.length >= n, i + 1, { timeout: 20_000 });
  await one.page.waitForTimeout(100 + ((37 * i) % 300));
}
const [drawn, shown] = [await one.page.evaluate("window.drawn"), await other.page.evaluate("window.shown")];
const delays = shown.slice(0, COUNT).map((at, i) => at - drawn[i]);
await other.context.close();

// Ten thousand on the package's sheets, five overlays of two thousand.
const many = 10_000;
let put = COUNT;
for (let overlay = 0; put < many; overlay++) {
  const item = items[overlay % items.length];
  const id = crypto.randomUUID();
  await ask(one.page, "PUT", `/drafts/${item.draft}/overlays/${id}`, { name: `Many ${overlay}` });
  const [leaf] = await ask(one.page, "GET", `/drafts/${item.draft}/leaves`);
  const { minX, minY, maxX, maxY } = leaf.frame.extents;
  for (let batch = 0; batch < 10 && put < many; batch++) {
    const changes = Array.from({ length: Math.min(200, many - put) }, () => {
      const k = put++;
      const from = {
        x: minX + ((maxX - minX) * ((k * 37) % 997)) / 1100,
        y: minY + ((maxY - minY) * ((k * 91) % 991)) / 1100,
      };
      const to = { x: from.x + (maxX - minX) / 60, y: from.y + (maxY - minY) / 60 };
      const shape = { shape: ["box", "line", "ellipse", "strike"][k % 4], from, to };
      const place = { on: "sheet", leaf: leaf.position };
      return { change: "put", id: crypto.randomUUID(), overlay: id, place, shape, note: null, version: 0 };
    });
    await ask(one.page, "POST", `/drafts/${item.draft}/markups`, { changes });
  }
}
await open(one.page);
const [with_, all] = [[], []];
for (let i = 0; i < 5; i++) {
  const from = performance.now();
  with_.push(await open(one.page));
  await one.page.waitForFunction(
    () => {
      const all = [...document.querySelectorAll("[data-testid=markups-together]")];
      return all.reduce((sum, canvas) => sum + Number(canvas.dataset.count), 0) > 1000;
    },
    null,
    {
      timeout: 60_000,
    },
  );
  all.push((performance.now() - from) / 1000);
}
await browser.close();
const sorted = [...delays].sort((a, b) => a - b);
console.log(
  JSON.stringify({
    median: median(delays),
    p95: sorted[Math.floor(COUNT * 0.95)],
    none: median(none),
    many: median(with_),
    shown: median(all),
  }),
);
