// A page of a PDF on the bench as built, its worker and its prepared picture, beside pdf.js drawing the same page; each run in a browser of its own.
import { readFileSync, readdirSync } from "node:fs";
import { execFileSync } from "node:child_process";
import { join } from "node:path";
import { answersOf } from "./answers.mjs";
import { launch, median, serve } from "./house.mjs";

const [, , file, prepared, dist, runs] = process.argv;
const id = "01900000-0000-7000-8000-000000000001";
const PATIENCE = 180_000;
const LENT = "../../web/node_modules/@expo-google-fonts/arimo/400Regular/Arimo_400Regular.ttf";
const [WIDTH, HEIGHT] = [1280, 800];
/** What of the bench the sheet has, and how large the page is shown there at first: the peer draws as much of it as large. */
let pane = { width: WIDTH, height: HEIGHT, scale: 1 };
const pdf = readFileSync(file);
const leaf = JSON.parse(readFileSync(join(prepared, "prepared.json"), "utf8")).leaves[0].leaf;
const form = (name) => readFileSync(join(prepared, `0.${name}`));
const facts = JSON.parse(form("facts").toString());
const answers = {
  ...answersOf(id, leaf.frame, "drawing.pdf"),
  [`/api/drafts/${id}/leaves/0/page`]: facts,
};
// The peer draws what the window shows, as a page that is scrolled would: first all of the page, then its middle four times as large.
const peerPage =
  () => `<!doctype html><body style="margin:0"><canvas id="c" width="${pane.width}" height="${pane.height}"></canvas><script type="module">
import * as pdfjs from "/pdfjs/pdf.mjs";
pdfjs.GlobalWorkerOptions.workerSrc = "/pdfjs/pdf.worker.mjs";
const context = document.getElementById("c").getContext("2d");
window.draw = async (times) => {
  const from = performance.now();
  const fit = ${pane.scale} * times;
  const viewport = window.page.getViewport({ scale: fit, offsetX: (${pane.width} - window.whole.width * fit) / 2, offsetY: (${pane.height} - window.whole.height * fit) / 2 });
  context.reset();
  await window.page.render({ canvasContext: context, canvas: context.canvas, viewport }).promise;
  context.getImageData(0, 0, 1, 1);
  return (performance.now() - from) / 1000;
};
const worker = new pdfjs.PDFWorker();
await worker.promise;
window.open_ = async () => { try {
  const document = await pdfjs.getDocument({ url: "/api/drafts/${id}/file", worker }).promise;
  window.page = await document.getPage(1);
  window.whole = window.page.getViewport({ scale: 1 });
  await window.draw(1);
  window.isOpen = true;
} catch (e) { window.failed = String(e); } };
window.isReady = true;
</script>`;
const pdfjs = new Map(
  readdirSync("node_modules/pdfjs-dist/build").map((name) => [
    `/pdfjs/${name}`,
    join("node_modules/pdfjs-dist/build", name),
  ]),
);
const { base, close } = await serve(dist, answers, (path) => {
  if (path.endsWith("/file")) return { body: pdf, type: "application/pdf" };
  if (path.endsWith("/picture")) return { body: form("picture"), type: "image/webp" };
  if (path.endsWith("/small")) return { body: form("small"), type: "image/webp" };
  // The files are lettered in Helvetica: what the server lends for it.
  if (path === "/api/page-fonts") return { body: readFileSync(LENT), type: "font/sfnt" };
  if (path === "/peer") return { body: peerPage(), type: "text/html" };
  if (pdfjs.has(path)) return { body: readFileSync(pdfjs.get(path)), type: "text/javascript" };
});

/** Megabytes of a browser's pages: what their processes have for themselves and their share of what they share. */
function megabytes() {
  const lines = execFileSync("ps", ["-eo", "pid,args"], { encoding: "utf8", maxBuffer: 1 << 26 }).split("\n");
  let total = 0;
  for (const line of lines.filter((l) => l.includes("--type=renderer"))) {
    try {
      const rollup = readFileSync(`/proc/${line.trim().split(" ")[0]}/smaps_rollup`, "utf8");
      total += Number(/^Pss:\s+(\d+)/m.exec(rollup)[1]) / 1024;
    } catch {
      // It has just ended.
    }
  }
  return total;
}

/** Runs in a browser of its own; gives what it measured and how much memory opening the page took. */
async function alone({ prepare, open }) {
  const browser = await launch();
  try {
    const page = await browser.newPage({ viewport: { width: WIDTH, height: HEIGHT } });
    await prepare(page);
    const empty = megabytes();
    const found = await open(page);
    return { ...found, memory: megabytes() - empty };
  } finally {
    await browser.close();
  }
}

/** Somebody who has worked before: the program is there, the desk is open. */
async function atDesk(page) {
  // Each tile's time, as the page that asks for it sees it.
  await page.addInitScript(() => {
    window.tiles = [];
    const Plain = window.Worker;
    window.Worker = class extends Plain {
      constructor(...args) {
        super(...args);
        this.addEventListener(
          "message",
          (e) =>
            "bitmap" in e.data && window.tiles.push([performance.now(), e.data.bitmap.width * e.data.bitmap.height]),
        );
      }
    };
  });
  await page.goto(`${base}/desk`);
  await page.getByRole("link", { name: "Desk" }).first().waitFor();
  await page.waitForTimeout(1000);
}

async function ours(page) {
  const from = performance.now();
  await page.evaluate((to) => {
    history.pushState({}, "", to);
    dispatchEvent(new PopStateEvent("popstate", { state: {} }));
  }, `/packages/${id}`);
  const picture = page.locator("[data-sharp] img").first();
  await picture.waitFor({ timeout: PATIENCE });
  await picture.evaluate((img) => img.decode());
  const pictured = await page.evaluate(() => {
    const came = performance.getEntriesByType("resource").find((e) => e.name.endsWith("/picture"));
    return (performance.now() - came.responseEnd) / 1000;
  });
  const shown = (performance.now() - from) / 1000;
  await page.waitForSelector("[data-sharp=true]", { timeout: PATIENCE });
  const first = (performance.now() - from) / 1000;
  await page.waitForTimeout(500);
  const sheet = page.locator("[data-sharp]").first();
  await sheet.focus();
  const scale = async () => Number(await sheet.getAttribute("data-scale"));
  const before = await scale();
  const box = await sheet.boundingBox();
  // The sheet counts in millimetres, the peer in points.
  pane = { width: Math.round(box.width), height: Math.round(box.height), scale: (before * 25.4) / 72 };
  await page.evaluate(() => (window.tiles = []));
  for (let i = 0; i < 6; i++) await page.keyboard.press("+");
  const start = performance.now();
  const inPage = await page.evaluate(() => performance.now());
  await page.waitForFunction("document.querySelector('[data-sharp]').dataset.sharp === 'true'", null, {
    timeout: PATIENCE,
    polling: 10,
  });
  const zoom = (performance.now() - start) / 1000;
  const tiles = await page.evaluate((start) => {
    const after = window.tiles.filter(([t]) => t > start);
    const pixels = after.reduce((n, [, p]) => n + p, 0);
    return after.length > 0 ? pixels / (512 * 512) / ((Math.max(...after.map(([t]) => t)) - start) / 1000) : 0;
  }, inPage);
  if (!((await scale()) > 3.5 * before)) throw new Error("The page was not zoomed.");
  return { pictured, shown, first, zoom, tiles };
}

async function atPeer(page) {
  await page.goto(`${base}/peer`);
  await page.waitForFunction("window.isReady", null, { timeout: PATIENCE });
  await page.waitForTimeout(1000);
}

async function peer(page) {
  const from = performance.now();
  await page.evaluate("void window.open_()");
  await page.waitForFunction("window.isOpen !== undefined || window.failed", null, { timeout: PATIENCE, polling: 10 });
  const first = (performance.now() - from) / 1000;
  const failed = await page.evaluate("window.failed");
  if (failed) return { failed };
  const zoom = await page.evaluate("window.draw(3.81)");
  return { first, zoom, tiles: (pane.width * pane.height) / (512 * 512) / zoom };
}

const result = {};
for (const [who, measure] of [
  ["ours", { prepare: atDesk, open: ours }],
  ["peer", { prepare: atPeer, open: peer }],
]) {
  const all = [];
  for (let run = 0; run < Number(runs); run++) {
    try {
      all.push(await alone(measure));
    } catch (e) {
      all.push({ failed: String(e).slice(0, 300) });
    }
  }
  const good = all.filter((a) => !a.failed);
  result[who] =
    good.length === 0
      ? { failed: all[0].failed }
      : Object.fromEntries(Object.keys(good[0]).map((key) => [key, median(good.map((a) => a[key]))]));
}
close();
console.log(JSON.stringify(result));
