// Reads a DXF file with dxf-parser, as often as asked after as many seconds of warming up as asked; prints the median seconds and peak memory.
import { readFileSync } from "node:fs";
import DxfParser from "dxf-parser";

const times = Number(process.argv[3] ?? 1);
const warmUntil = performance.now() + Number(process.argv[4] ?? 0) * 1000;
const taken = [];
let entities = 0;
while (taken.length < times) {
  const from = performance.now();
  entities = new DxfParser().parseSync(readFileSync(process.argv[2], "utf8")).entities.length;
  if (from >= warmUntil) taken.push((performance.now() - from) / 1000);
}
const seconds = taken.sort((a, b) => a - b)[Math.floor(times / 2)];
console.log(JSON.stringify({ seconds, peakMegabytes: process.resourceUsage().maxRSS / 1000, entities }));
