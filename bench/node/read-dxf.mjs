// Reads a DXF file with dxf-parser, once or as often as asked, and prints the median seconds and peak memory, as froe read does.
import { readFileSync } from "node:fs";
import DxfParser from "dxf-parser";

const times = Number(process.argv[3] ?? 1);
const taken = [];
let entities = 0;
for (let i = 0; i < times; i++) {
  const from = performance.now();
  entities = new DxfParser().parseSync(readFileSync(process.argv[2], "utf8")).entities.length;
  taken.push((performance.now() - from) / 1000);
}
const seconds = taken.sort((a, b) => a - b)[Math.floor(times / 2)];
console.log(JSON.stringify({ seconds, peakMegabytes: process.resourceUsage().maxRSS / 1000, entities }));
