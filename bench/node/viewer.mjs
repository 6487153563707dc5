// The front end as built, its API answered from files, beside three's LineSegments on the same lines in the same browser.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { answersOf } from "./answers.mjs";
import { launch, median, serve } from "./house.mjs";

const [, , folder, dist] = process.argv;
const id = "01900000-0000-7000-8000-000000000001";
const sheet = readFileSync(join(folder, "large.sheet"));
/** Where a section of the prepared sheet lies (PreparedSheet: tag, offset, length). */
const section = (tag) => {
  for (let row = 12; row < 12 + 12 * sheet.readUInt32LE(8); row += 12)
    if (sheet.toString("latin1", row, row + 4) === tag)
      return { at: sheet.readUInt32LE(row + 4), length: sheet.readUInt32LE(row + 8) };
  throw new Error(`The prepared sheet has no section ${tag}.`);
};
const [told, strokes] = [section("HEAD"), section("STRK")];
const head = JSON.parse(sheet.subarray(told.at, told.at + told.length).toString());
const segments = strokes.length / 16;
const [minX, minY, maxX, maxY] = head.extents;
const answers = answersOf(id, {
  kind: "sheet",
  unit: "unknown",
  surface: "strokes",
  extents: { minX, minY, maxX, maxY },
});
// One markup of one's own, as large as half the sheet, to be dragged.
const [w, h] = [maxX - minX, maxY - minY];
const drawn = { from: { x: minX + w / 4, y: minY + h / 4 }, to: { x: maxX - w / 4, y: maxY - h / 4 } };
answers[`/api/drafts/${id}/overlays`] = {
  mayDraw: true,
  mayShare: true,
  overlays: [
    {
      ...{ id, owner: id, ownerName: "Bench", name: "Marks", isPrivate: false, round: null },
      markups: [
        {
          ...{ id, overlay: id, place: { on: "sheet", leaf: 0 }, shape: { shape: "box", ...drawn } },
          ...{ note: null, zone: null, version: 1, mayChange: true, tie: null, rank: 0 },
        },
      ],
    },
  ],
};
const peerPage = `<!doctype html><body style="margin:0"><script type="module">
import * as THREE from "/three.module.js";
const from = performance.now();
const buffer = await (await fetch("/api/drafts/${id}/leaves/0/geometry")).arrayBuffer();
const at = ${strokes.at}, n = ${segments};
const flat = new Float32Array(buffer, at, n * 4), xyz = new Float32Array(n * 6);
for (let i = 0; i < n * 2; i++) { xyz[i * 3] = flat[i * 2]; xyz[i * 3 + 1] = flat[i * 2 + 1]; }
const renderer = new THREE.WebGLRenderer(); renderer.setSize(1280, 800); document.body.append(renderer.domElement);
const w = ${head.extents[2] - head.extents[0]}, camera = new THREE.OrthographicCamera(-w / 2, w / 2, w / 3.2, -w / 3.2, -1, 1), scene = new THREE.Scene();
const geometry = new THREE.BufferGeometry(); geometry.setAttribute("position", new THREE.BufferAttribute(xyz, 3));
scene.add(new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color: 0x1d2a33 })));
const gl = renderer.getContext(), pixel = new Uint8Array(4);
const frame = () => { renderer.render(scene, camera); gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, pixel); };
frame();
window.first = (performance.now() - from) / 1000;
window.pan = async (count) => {
  const start = performance.now();
  for (let i = 0; i < count; i++) { camera.position.x += w / 400; frame(); await new Promise(requestAnimationFrame); }
  return count / ((performance.now() - start) / 1000);
};
</script>`;
const { base, close } = await serve(dist, answers, (path) => {
  if (path.endsWith("/geometry")) return { body: sheet, type: "application/octet-stream" };
  if (path.endsWith("/picture") || path.endsWith("/small"))
    return { body: readFileSync(join(folder, "large.png")), type: "image/png" };
  if (path === "/peer") return { body: peerPage, type: "text/html" };
  if (path === "/three.module.js" || path === "/three.core.js")
    return { body: readFileSync(join("node_modules/three/build", path)), type: "text/javascript" };
});
const browser = await launch();
const result = { ourFirst: [], ourFrames: [], ourDragged: [], ourSharp: [], peerFirst: [], peerFrames: [] };
let lines = 0,
  all = 0;
for (let run = 0; run < 3; run++) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const from = performance.now();
  await page.goto(`${base}/packages/${id}`);
  await page.waitForSelector("[data-sharp=true]", { timeout: 60_000 });
  result.ourFirst.push((performance.now() - from) / 1000);
  await page.waitForTimeout(1500);
  // Panning: the hand moves for two seconds while the page counts its own frames; letting go starts the clock for sharpness.
  const surface = page.locator("[data-sharp]");
  const box = await surface.boundingBox();
  /** Frames a second that the page counts while the hand moves for two seconds from a place, and does not let go. */
  const moving = async (x, y) => {
    await page.evaluate(() => {
      window.frames_ = 0;
      const count = () => {
        window.frames_++;
        window.counting && requestAnimationFrame(count);
      };
      window.counting = true;
      requestAnimationFrame(count);
    });
    await page.mouse.move(x, y);
    await page.mouse.down();
    const start = performance.now();
    for (let i = 0; performance.now() - start < 2000; i++)
      await page.mouse.move(x + 120 * Math.sin(i / 25), y + 60 * Math.cos(i / 25) - 60);
    const seconds = (performance.now() - start) / 1000;
    const frames = await page.evaluate(() => {
      window.counting = false;
      return window.frames_;
    });
    return frames / seconds;
  };
  // A markup dragged over the resting sheet: by the middle of its left side.
  const [viewX, viewY] = (await surface.getAttribute("data-view")).split(",").map(Number);
  const shown = Number(await surface.getAttribute("data-scale"));
  const [originX, originY] = [head.origin?.[0] ?? 0, head.origin?.[1] ?? 0];
  result.ourDragged.push(
    await moving(
      box.x + box.width / 2 + (drawn.from.x - originX - viewX) * shown,
      box.y + box.height / 2 - ((drawn.from.y + drawn.to.y) / 2 - originY - viewY) * shown,
    ),
  );
  const moved = await page.evaluate(() => document.querySelector("[data-testid=markups] circle") !== null);
  if (!moved) throw new Error("The markup was not taken hold of.");
  await page.mouse.up();
  await page.waitForTimeout(500);
  result.ourFrames.push(await moving(box.x + 350, box.y + 300));
  await page.mouse.up();
  const up = performance.now();
  await page.waitForSelector("[data-sharp=true]", { timeout: 60_000 });
  result.ourSharp.push((performance.now() - up) / 1000);
  if (run === 0) {
    // Zoomed in until lines stand apart: does every line whose middle is in the window leave ink there?
    const target = page.locator("[data-sharp]");
    await target.focus();
    for (let i = 0; i < 14; i++) await page.keyboard.press("+");
    await page.waitForTimeout(400);
    await page.waitForSelector("[data-sharp=true]", { timeout: 60_000 });
    const [x, y] = (await target.getAttribute("data-view")).split(",").map(Number);
    const scale = Number(await target.getAttribute("data-scale"));
    const coords = new Float32Array(
      sheet.buffer.slice(sheet.byteOffset + strokes.at, sheet.byteOffset + strokes.at + strokes.length),
    );
    const middles = [];
    for (let i = 0; i < segments; i++) {
      const px = ((coords[i * 4] + coords[i * 4 + 2]) / 2 - x) * scale,
        py = (y - (coords[i * 4 + 1] + coords[i * 4 + 3]) / 2) * scale;
      if (Math.abs(px) < box.width / 2 && Math.abs(py) < box.height / 2) middles.push([px, py]);
    }
    all = middles.length;
    lines = await target
      .locator("canvas")
      .first()
      .evaluate((canvas, middles) => {
        const copy = document.createElement("canvas");
        [copy.width, copy.height] = [canvas.width, canvas.height];
        const context = copy.getContext("2d");
        context.drawImage(canvas, 0, 0);
        const data = context.getImageData(0, 0, copy.width, copy.height).data;
        const ink = (px, py) =>
          data[(Math.round(copy.height / 2 + py) * copy.width + Math.round(copy.width / 2 + px)) * 4 + 3] > 20;
        return middles.filter(([px, py]) => [-1, 0, 1].some((dx) => [-1, 0, 1].some((dy) => ink(px + dx, py + dy))))
          .length;
      }, middles);
  }
  await page.close();
  const peer = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await peer.goto(`${base}/peer`);
  await peer.waitForFunction("window.first !== undefined", null, { timeout: 120_000 });
  result.peerFirst.push(await peer.evaluate("window.first"));
  result.peerFrames.push(await peer.evaluate("window.pan(4)"));
  await peer.close();
}
await browser.close();
close();
console.log(
  JSON.stringify({
    ...Object.fromEntries(Object.entries(result).map(([k, v]) => [k, median(v)])),
    ourLines: lines,
    allLines: all,
  }),
);
