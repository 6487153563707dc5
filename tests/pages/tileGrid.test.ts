import assert from "node:assert/strict";
import { test } from "node:test";
import {
  levelFor,
  partBox,
  partInView,
  partOf,
  TILE,
  tilesInView,
  type Paper,
} from "../../web/src/viewer/surface/tileGrid";

const paper: Paper = [10, 20, 430, 317];
const origin = [220, 168.5] as const;
const level = { key: "a", width: 4200, height: 2970 };

/** Numbers that are the same in every run. */
function numbers(seed: number) {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

test("the tiles of a view cover all of the paper that lies in it, and no more are asked for than touch it", () => {
  const next = numbers(7);
  for (let i = 0; i < 400; i++) {
    const view = { x: (next() - 0.5) * 600, y: (next() - 0.5) * 450, scale: 0.3 + next() * 30 };
    const [w, h] = [300 + next() * 1200, 200 + next() * 800];
    const tiles = tilesInView(level, paper, origin, view, w, h);
    const boxes = tiles.map((t) => partBox(level, partOf(level, t), paper, origin, view, w, h, 1));
    for (const b of boxes) assert.ok(b.x < w && b.y < h && b.x + b.width > 0 && b.y + b.height > 0);
    for (let k = 0; k < 20; k++) {
      const at = { x: next() * w, y: next() * h };
      const sheet = { x: view.x + (at.x - w / 2) / view.scale, y: view.y - (at.y - h / 2) / view.scale };
      const [x, y] = [sheet.x + origin[0], sheet.y + origin[1]];
      if (x < paper[0] || x > paper[2] || y < paper[1] || y > paper[3]) continue;
      const within = boxes.some(
        (b) =>
          at.x >= b.x - 1e-6 && at.x <= b.x + b.width + 1e-6 && at.y >= b.y - 1e-6 && at.y <= b.y + b.height + 1e-6,
      );
      assert.ok(within, `nothing covers ${x}, ${y}`);
    }
  }
});

test("neighbouring tiles meet, the last of a row and a column end with the paper, the middle comes first", () => {
  const view = { x: 0, y: 0, scale: 3 };
  const box = (column: number, row: number) =>
    partBox(level, partOf(level, { column, row }), paper, origin, view, 1260, 891, 2);
  assert.ok(Math.abs(box(0, 0).x + box(0, 0).width - box(1, 0).x) < 1e-9);
  assert.ok(Math.abs(box(0, 0).y + box(0, 0).height - box(0, 1).y) < 1e-9);
  const last = box(Math.ceil(4200 / TILE) - 1, Math.ceil(2970 / TILE) - 1);
  assert.ok(Math.abs(last.x + last.width - 2 * 1260) < 1e-6 && Math.abs(last.y + last.height - 2 * 891) < 1e-6);
  const ends = partOf(level, { column: Math.ceil(4200 / TILE) - 1, row: Math.ceil(2970 / TILE) - 1 });
  assert.deepEqual([ends.width, ends.height], [4200 % TILE, 2970 % TILE]);
  const first = tilesInView(level, paper, origin, view, 1260, 891)[0]!;
  assert.ok(Math.abs(first.column - 3.6) < 1 && Math.abs(first.row - 2.4) < 1);
});

test("what is to be seen of tiles covers the window's share of them and reaches beyond neither", () => {
  const next = numbers(11);
  for (let i = 0; i < 400; i++) {
    const view = { x: (next() - 0.5) * 500, y: (next() - 0.5) * 400, scale: 0.5 + next() * 30 };
    const [w, h] = [300 + next() * 1200, 200 + next() * 800];
    const tiles = tilesInView(level, paper, origin, view, w, h);
    const part = partInView(level, tiles, paper, origin, view, w, h);
    if (tiles.length === 0) continue;
    assert.ok(part);
    assert.ok(part.x >= 0 && part.y >= 0 && part.x + part.width <= level.width && part.y + part.height <= level.height);
    const box = partBox(level, part, paper, origin, view, w, h, 1);
    const all = partBox(level, { x: 0, y: 0, width: level.width, height: level.height }, paper, origin, view, w, h, 1);
    const pixel = partBox(level, { x: 0, y: 0, width: 1, height: 1 }, paper, origin, view, w, h, 1).width * 1.001;
    const covers = (from: number, to: number, low: number, high: number, most: number) => {
      assert.ok(from <= Math.max(0, low) + 1e-6 && to >= Math.min(most, high) - 1e-6);
      assert.ok(from >= -pixel && to <= most + pixel);
    };
    covers(box.x, box.x + box.width, all.x, all.x + all.width, w);
    covers(box.y, box.y + box.height, all.y, all.y + all.height, h);
  }
  assert.equal(
    partInView(level, [{ column: 0, row: 0 }], paper, origin, { x: 190, y: -130, scale: 10 }, 200, 200),
    null,
  );
});

test("a view beside the paper wants no tile", () => {
  assert.deepEqual(tilesInView(level, paper, origin, { x: 5000, y: 0, scale: 1 }, 800, 600), []);
});

test("the size of a picture is the smallest that has a point for every pixel", () => {
  const levels = [4200, 2100, 1050, 525].map((width) => ({ width, height: width }));
  assert.equal(levelFor(levels, paper, 100), null);
  assert.equal(levelFor(levels, paper, 10)?.size, 0);
  assert.equal(levelFor(levels, paper, 5)?.size, 1);
  assert.equal(levelFor(levels, paper, 2.4)?.size, 2);
  assert.equal(levelFor(levels, paper, 0.1)?.size, 3);
});
