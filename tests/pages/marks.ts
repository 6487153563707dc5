import type { Shape } from "../../web/src/api/types";
import type { Mark } from "../../web/src/viewer/markup/store";

export const cloud = (x: number, y = 0): Shape => ({ shape: "cloud", from: { x, y }, to: { x: x + 100, y: y + 50 } });
export const arrow: Shape = { shape: "arrow", from: { x: 0, y: 0 }, to: { x: 100, y: 0 } };
export const mark = (id: string, shape: Shape, more: Partial<Mark> = {}): Mark => ({
  id,
  overlay: "o",
  leaf: 0,
  shape,
  note: null,
  zone: null,
  mayChange: true,
  tie: null,
  rank: 0,
  ...more,
});

export function* chances(seed: number) {
  for (let x = seed; ;) {
    x = (Math.imul(x, 1664525) + 1013904223) >>> 0;
    yield x / 2 ** 32;
  }
}
