// A model of a million triangles in the front end as built, its API answered from files, beside three drawing all of it each frame.
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { answersOf } from "./answers.mjs";
import { launch, median, serve } from "./house.mjs";

const [, , folder, dist] = process.argv;
const id = "01900000-0000-7000-8000-000000000001";
const file = (name) => readFileSync(join(folder, name));
const facts = JSON.parse(file("ring.scene.json").toString());
const [x0, y0, z0, x1, y1, z1] = facts.box;
const leaf = `/api/drafts/${id}/leaves/0`;
const answers = {
  ...answersOf(id, {
    kind: "scene",
    unit: "millimetre",
    box: facts.box,
    components: 1,
    parts: 1,
    triangles: 1_000_000,
  }),
  [`${leaf}/scene`]: facts,
  [`${leaf}/data`]: { tints: [], documents: [] },
  [`${leaf}/named`]: [],
  [`${leaf}/views`]: [],
  [`${leaf}/stated`]: { shown: null, by: null, at: null, mayChoose: false },
};
/** All of it drawn each frame, on a canvas as large as ours, with the same light; the frames that it gets are counted as ours are. */
const peerPage = (width, height) => `<!doctype html><body style="margin:0"><script type="module">
import * as THREE from "/three.module.js";
const [points, corners] = await Promise.all(["/ring.points", "/ring.corners"].map(async (u) => (await fetch(u)).arrayBuffer()));
const from = performance.now();
const geometry = new THREE.BufferGeometry();
geometry.setAttribute("position", new THREE.BufferAttribute(new Float32Array(points), 3));
geometry.setIndex(new THREE.BufferAttribute(new Uint32Array(corners), 1));
geometry.computeVertexNormals();
const renderer = new THREE.WebGLRenderer({ antialias: true }); renderer.setSize(${width}, ${height}); document.body.append(renderer.domElement);
const scene = new THREE.Scene(), high = ${Math.hypot(x1 - x0, y1 - y0, z1 - z0)};
scene.add(new THREE.Mesh(geometry, new THREE.MeshLambertMaterial({ color: 0xb9b6ae, side: THREE.DoubleSide })), new THREE.HemisphereLight(0xffffff, 0xb9b2a2, 1.35), new THREE.DirectionalLight(0xffffff, 1.9));
const camera = new THREE.OrthographicCamera(-high * ${width / height} / 2, high * ${width / height} / 2, high / 2, -high / 2, -10 * high, 10 * high);
camera.up.set(0, 0, 1);
const turn = (angle) => { camera.position.set(Math.cos(angle), Math.sin(angle), 0.5); camera.lookAt(0, 0, 0); renderer.render(scene, camera); };
const gl = renderer.getContext(), pixel = new Uint8Array(4);
turn(0);
gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, pixel);
window.first = (performance.now() - from) / 1000;
window.spin = async (milliseconds) => {
  const start = performance.now();
  let frames = 0;
  while (performance.now() - start < milliseconds) {
    turn(frames++ / 50);
    await new Promise(requestAnimationFrame);
  }
  gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, pixel);
  return frames / ((performance.now() - start) / 1000);
};
</script>`;
let size = { width: 400, height: 700 };
const { base, close } = await serve(dist, answers, (path) => {
  if (path === `${leaf}/meshes`) return { body: file("ring.meshes"), type: "application/octet-stream" };
  if (path === "/ring.points" || path === "/ring.corners")
    return { body: file(path.slice(1)), type: "application/octet-stream" };
  if (path === "/peer") return { body: peerPage(size.width, size.height), type: "text/html" };
  if (path === "/three.module.js" || path === "/three.core.js")
    return { body: readFileSync(join("node_modules/three/build", path)), type: "text/javascript" };
});
const browser = await launch();
const found = { ourFirst: [], ourFrames: [], ourSharp: [], peerFirst: [], peerFrames: [] };
for (let run = 0; run < 3; run++) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${base}/packages/${id}`);
  const from = page.getByTestId("looks-from");
  await from.waitFor({ timeout: 120_000 });
  // From when the bytes were there until the picture is: the next picture that the browser gives holds it.
  await page.screenshot({ clip: { x: 0, y: 0, width: 8, height: 8 } });
  found.ourFirst.push(
    await page.evaluate(() => {
      const meshes = performance.getEntriesByType("resource").find((r) => new URL(r.name).pathname.endsWith("/meshes"));
      return (performance.now() - meshes.responseEnd) / 1000;
    }),
  );
  const model = page.getByTestId("model");
  const box = await model.boundingBox();
  size = { width: Math.round(box.width), height: Math.round(box.height) };
  await page.evaluate(() => {
    window.frames_ = 0;
    const count = () => {
      window.frames_++;
      if (window.counting) requestAnimationFrame(count);
    };
    window.counting = true;
    requestAnimationFrame(count);
  });
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const turning = async (milliseconds) => {
    const start = performance.now();
    for (let i = 0; performance.now() - start < milliseconds; i++)
      await page.mouse.move(x + 100 * Math.sin(i / 20), y + 40 * Math.cos(i / 20) - 40);
    return (performance.now() - start) / 1000;
  };
  // Within the first half second it is found that the machine is slow, and the coarse mesh is made.
  await turning(1500);
  const before = await page.evaluate(() => window.frames_);
  const seconds = await turning(2000);
  found.ourFrames.push(
    ((await page.evaluate(() => {
      window.counting = false;
      return window.frames_;
    })) -
      before) /
      seconds,
  );
  await page.mouse.up();
  const up = performance.now();
  await page.waitForTimeout(160);
  await page.screenshot({ clip: { x: box.x + 4, y: box.y + 4, width: 8, height: 8 } });
  found.ourSharp.push((performance.now() - up) / 1000);
  await page.close();

  const peer = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await peer.goto(`${base}/peer`);
  await peer.waitForFunction(() => window.first !== undefined, undefined, { timeout: 120_000 });
  found.peerFirst.push(await peer.evaluate(() => window.first));
  found.peerFrames.push(await peer.evaluate(() => window.spin(2000)));
  await peer.close();
}
await browser.close();
close();
console.log(JSON.stringify(Object.fromEntries(Object.entries(found).map(([name, all]) => [name, median(all)]))));
