// A page of a PDF on the bench as built, its worker and its prepared picture, beside pdf.js drawing the same page; each run in a browser of its
// own. Both have shown another page before: measured is going from one to the next.
import { existsSync, readFileSync, readdirSync } from "node:fs";
import { execFileSync } from "node:child_process";
import { join } from "node:path";
import { answersOf } from "./answers.mjs";
import { launch, median, serve } from "./house.mjs";

const [, , dist, runs, ...files] = process.argv;
/** What is opened before, and what is measured. */
const [first, second] = [0, 1].map((n) => {
  const [file, prepared] = files.slice(2 * n);
  const form = (name) => readFileSync(join(prepared, `0.${name}`));
  const leaf = JSON.parse(readFileSync(join(prepared, "prepared.json"), "utf8")).leaves[0].leaf;
  const id = `01900000-0000-7000-8000-00000000000${n + 1}`;
  return {
    id,
    leaf,
    form,
    pdf: readFileSync(file),
    facts: JSON.parse(form("facts").toString()),
    tiles: existsSync(join(prepared, "0.tiles")) ? tilesOf(form("tiles")) : null,
  };
});
const PATIENCE = 180_000;
const LENT = "../../web/node_modules/@expo-google-fonts/arimo/400Regular/Arimo_400Regular.ttf";
const [WIDTH, HEIGHT] = [1280, 800];
/** What of the bench the sheet has, and how large the page is shown there at first: the peer draws as much of it as large. */
let pane = { width: WIDTH, height: HEIGHT, scale: 1 };
/** A pack of tiles: its pyramid, and each of them by its place. */
function tilesOf(pack) {
  const length = Number(pack.readBigUInt64LE(pack.length - 8));
  const pyramid = JSON.parse(pack.subarray(pack.length - 8 - length, pack.length - 8).toString());
  const tile = (place) => {
    const [level, column, row] = place.split("/").map(Number);
    const { at, bytes, columns } = pyramid.levels[level];
    const n = row * columns + column;
    return { body: pack.subarray(at[n], at[n] + bytes[n]), type: pyramid.mediaType };
  };
  return { pyramid, tile };
}

const answers = answersOf(first.id, first.leaf.frame, "first.pdf");
const view = answers[`/api/packages/${first.id}`];
view.items = [first, second].map(({ id }, n) => ({ ...view.items[0], document: id, draft: id, fileName: `${n}.pdf` }));
for (const { id, leaf, facts, tiles } of [first, second]) {
  answers[`/api/drafts/${id}/leaves`] = answersOf(id, leaf.frame)[`/api/drafts/${id}/leaves`];
  answers[`/api/drafts/${id}/overlays`] = answers[`/api/drafts/${first.id}/overlays`];
  answers[`/api/drafts/${id}/leaves/0/page`] = facts;
  if (tiles) answers[`/api/drafts/${id}/leaves/0/tiles`] = tiles.pyramid;
}
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
window.open_ = async (id) => { try {
  window.isOpen = undefined;
  const document = await pdfjs.getDocument({ url: "/api/drafts/" + id + "/file", worker }).promise;
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
  const of = [first, second].find(({ id }) => path.startsWith(`/api/drafts/${id}/`));
  if (of && path.endsWith("/file")) return { body: of.pdf, type: "application/pdf" };
  if (of && path.endsWith("/picture")) return { body: of.form("picture"), type: "image/webp" };
  if (of && path.endsWith("/small")) return { body: of.form("small"), type: "image/webp" };
  const tile = of?.tiles && /\/tiles\/(\d+\/\d+\/\d+)$/.exec(path);
  if (tile) return of.tiles.tile(tile[1]);
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

/** Somebody at work: a package is open, its first item is shown. */
async function atFirst(page) {
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
  await page.goto(`${base}/packages/${first.id}`);
  await page.waitForSelector("[data-sharp=true]", { timeout: PATIENCE });
  await page.waitForTimeout(1000);
}

/**
 * Has a page tell when the next item's picture can be seen, and when it is sharp, in seconds since the key was pressed. It looks for itself, as
 * often as the peer is asked: whoever asks a page at each of its frames has it drawn at each of them.
 */
const watched = (page) =>
  page.evaluate((id) => {
    const told = (window.told = {});
    addEventListener("keydown", () => (told.from ??= performance.now()), { capture: true, once: true });
    const since = () => (performance.now() - told.from) / 1000;
    const looking = setInterval(() => {
      const picture = document.querySelector(`[data-sharp] img[src*="${id}"]`);
      if (!picture) return;
      if (picture.complete && !told.isDecoding) {
        told.isDecoding = true;
        void picture.decode().then(() => {
          const came = performance.getEntriesByType("resource").find((e) => e.name.endsWith(`${id}/leaves/0/picture`));
          told.shown = since();
          told.pictured = (performance.now() - came.responseEnd) / 1000;
        });
      }
      if (document.querySelector("[data-sharp=true]")) {
        told.sharp = since();
        clearInterval(looking);
      }
    }, 10);
  }, second.id);

async function ours(page) {
  await watched(page);
  await page.keyboard.press("n");
  await page.waitForFunction("window.told.sharp && window.told.pictured", null, { timeout: PATIENCE, polling: 20 });
  const { shown, pictured, sharp } = await page.evaluate("window.told");
  await page.waitForTimeout(500);
  const sheet = page.locator("[data-sharp]").first();
  await sheet.focus();
  const scale = async () => Number(await sheet.getAttribute("data-scale"));
  const before = await scale();
  const box = await sheet.boundingBox();
  // The sheet counts in millimetres, the peer in points.
  pane = { width: Math.round(box.width), height: Math.round(box.height), scale: (before * 25.4) / 72 };
  await page.evaluate(() => {
    window.tiles = [];
    const told = (window.zoomed = {});
    addEventListener("keydown", () => (told.from = performance.now()), { capture: true });
    const looking = setInterval(() => {
      const sheet = document.querySelector("[data-sharp]").dataset;
      if (told.from && sheet.sharp === "false") told.isBlurred = true;
      if (!told.isBlurred || sheet.sharp !== "true") return;
      told.seconds = (performance.now() - told.from) / 1000;
      clearInterval(looking);
    }, 10);
  });
  for (let i = 0; i < 6; i++) await page.keyboard.press("+");
  await page.waitForFunction("window.zoomed.seconds", null, { timeout: PATIENCE, polling: 20 });
  const { from: inPage, seconds: zoom } = await page.evaluate("window.zoomed");
  const tiles = await page.evaluate((start) => {
    // What the server cut comes by itself, whole tiles each.
    for (const e of performance.getEntriesByType("resource"))
      if (/\/tiles\/\d/.test(e.name)) window.tiles.push([e.responseEnd, 512 * 512]);
    const after = window.tiles.filter(([t]) => t > start);
    const pixels = after.reduce((n, [, p]) => n + p, 0);
    return after.length > 0 ? pixels / (512 * 512) / ((Math.max(...after.map(([t]) => t)) - start) / 1000) : 0;
  }, inPage);
  if (!((await scale()) > 3.5 * before)) throw new Error("The page was not zoomed.");
  return { pictured, shown, first: sharp, zoom, tiles };
}

async function atPeer(page) {
  await page.goto(`${base}/peer`);
  await page.waitForFunction("window.isReady", null, { timeout: PATIENCE });
  await opened(page, first.id);
  await page.waitForTimeout(1000);
}

async function opened(page, id) {
  await page.evaluate((of) => void window.open_(of), id);
  await page.waitForFunction("window.isOpen !== undefined || window.failed", null, { timeout: PATIENCE, polling: 10 });
}

async function peer(page) {
  const from = performance.now();
  await opened(page, second.id);
  const sharp = (performance.now() - from) / 1000;
  const failed = await page.evaluate("window.failed");
  if (failed) return { failed };
  const zoom = await page.evaluate("window.draw(3.81)");
  return { first: sharp, zoom, tiles: (pane.width * pane.height) / (512 * 512) / zoom };
}

const result = {};
for (const [who, measure] of [
  ["ours", { prepare: atFirst, open: ours }],
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
