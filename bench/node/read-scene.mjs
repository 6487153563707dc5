// Reads a model as often as asked after as many seconds of warming up as asked; prints the median seconds, peak memory and triangles.
import { readFileSync } from "node:fs";
import occt from "occt-import-js";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { STLLoader } from "three/examples/jsm/loaders/STLLoader.js";

globalThis.self = globalThis;
const [, , kind, file, times = "1", warm = "0"] = process.argv;
const library = kind === "step" ? await occt() : null;
const buffer = (bytes) => bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
const readers = {
  step: (bytes) => {
    const { success, meshes } = library.ReadStepFile(new Uint8Array(bytes), null);
    if (!success) throw new Error("The file was not read.");
    return meshes.reduce((sum, m) => sum + m.index.array.length / 3, 0);
  },
  stl: (bytes) => new STLLoader().parse(buffer(bytes)).attributes.position.count / 3,
  glb: async (bytes) => {
    let triangles = 0;
    const { scene } = await new GLTFLoader().parseAsync(buffer(bytes), "");
    scene.traverse((o) => (triangles += o.isMesh ? o.geometry.index.count / 3 : 0));
    return triangles;
  },
};
const warmUntil = performance.now() + Number(warm) * 1000;
const taken = [];
let triangles = 0;
while (taken.length < Number(times)) {
  const from = performance.now();
  triangles = await readers[kind](readFileSync(file));
  if (from >= warmUntil) taken.push((performance.now() - from) / 1000);
}
const seconds = taken.sort((a, b) => a - b)[Math.floor(taken.length / 2)];
console.log(JSON.stringify({ seconds, peakMegabytes: process.resourceUsage().maxRSS / 1000, triangles }));
