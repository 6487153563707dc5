// Reads a DXF file with dxf-parser and prints seconds and peak memory, as froe read does.
import { readFileSync } from "node:fs";
import DxfParser from "dxf-parser";

const from = performance.now();
const drawing = new DxfParser().parseSync(readFileSync(process.argv[2], "utf8"));
const seconds = (performance.now() - from) / 1000;
console.log(
  JSON.stringify({ seconds, peakMegabytes: process.resourceUsage().maxRSS / 1000, entities: drawing.entities.length }),
);
