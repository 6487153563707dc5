/**
 * How long the hand waits on a sheet: points caught among many strokes, and a markup picked among many. Told as JSON, in milliseconds, for
 * `./froe bench marks`; no test, for it says how soon.
 */
import type { Shape } from "../../web/src/api/types";
import type { Mark } from "../../web/src/viewer/markup/store";
import { Snapping, type SnapSource } from "../../web/src/viewer/snap/snap";
import { markAt } from "../../web/src/viewer/tools/look";

let x = 17;
const chance = () => (x = (Math.imul(x, 1664525) + 1013904223) >>> 0) / 2 ** 32;

/** Short strokes and a few long ones all over an A0 sheet, and a circle for every hundred. */
function sheet(count: number): SnapSource {
  const segments = new Float32Array(count * 4);
  for (let i = 0; i < count; i++) {
    const size = i % 500 === 0 ? 800 : 600 / Math.sqrt(count);
    const [sx, sy] = [chance() * 1189, chance() * 841];
    segments.set([sx, sy, sx + (chance() - 0.5) * size, sy + (chance() - 0.5) * size], 4 * i);
  }
  const arcs = count / 100;
  const curves = new Float32Array(arcs * 8);
  for (let i = 0; i < arcs; i++) {
    const r = 1 + chance() * 8;
    curves.set([chance() * 1189, chance() * 841, r, 0, 0, r, 0, 2 * Math.PI], 8 * i);
  }
  return {
    ...{ segments, curves, ends: new Uint8Array(count).fill(3), segmentEntity: Uint32Array.from(segments.keys()) },
    ...{ curveEntity: new Uint32Array(arcs), isArc: new Uint8Array(arcs).fill(1) },
  };
}

const median = (all: number[]) => all.sort((a, b) => a - b)[Math.floor(all.length / 2)]!;
const worst = (all: number[]) => Math.max(...all);
function timed(times: number, work: () => unknown): number[] {
  for (let i = 0; i < times / 4; i++) work();
  return Array.from({ length: times }, () => {
    const from = performance.now();
    work();
    return performance.now() - from;
  });
}

/** The whole sheet in a window, and a hundredth of it. */
function snapping(count: number) {
  const source = sheet(count);
  const from = performance.now();
  const snapping = new Snapping(source);
  const built = performance.now() - from;
  const at = (unit: number) =>
    timed(400, () => snapping.at({ x: chance() * 1189, y: chance() * 841 }, unit, { x: 5, y: 5 }, () => true));
  const [near, whole] = [at(0.1), at(1)];
  return { built, near: median(near), nearWorst: worst(near), whole: median(whole), wholeWorst: worst(whole) };
}

const marks = Array.from({ length: 10_000 }, (_, i): Mark => {
  const from = { x: chance() * 1189, y: chance() * 841 };
  const to = { x: from.x + 5 + chance() * 30, y: from.y + 5 + chance() * 20 };
  const kinds: Shape[] = [
    { shape: "cloud", from, to },
    { shape: "box", from, to },
    { shape: "arrow", from, to },
    { shape: "polyline", points: [from, to, { x: to.x, y: from.y }] },
  ];
  return { id: `${i}`, overlay: "o", leaf: 0, shape: kinds[i % 4]!, note: null, zone: null, mayChange: true, tie: null, rank: 0 };
});
const picking = timed(60, () =>
  markAt({ marks, picked: null }, { at: { x: chance() * 1189, y: chance() * 841 }, unit: 1 }),
);

console.log(
  JSON.stringify({
    few: snapping(10_000),
    many: snapping(1_000_000),
    picking: median(picking),
    pickingWorst: worst(picking),
  }),
);
