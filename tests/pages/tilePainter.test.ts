import assert from "node:assert/strict";
import { afterEach, beforeEach, test } from "node:test";
import type { Level, Part, TileAt } from "../../web/src/viewer/surface/tileGrid";
import { TilePainter } from "../../web/src/viewer/surface/tilePainter";
import type { TileSource } from "../../web/src/viewer/surface/tiles";

const before = globalThis.createImageBitmap;
type Picture = { of: string; isClosed: boolean; width: number; height: number };
let pictures: Picture[] = [];
const picture = (of: string, width: number, height: number) => {
  const made = { of, isClosed: false, width, height, close: () => void (made.isClosed = true) };
  pictures.push(made);
  return made as unknown as ImageBitmap;
};

beforeEach(() => {
  pictures = [];
  globalThis.createImageBitmap = ((of: unknown, x: number, y: number, w: number, h: number) => {
    assert.equal((of as Picture).isClosed, false, "cut from what is still there");
    return Promise.resolve(picture(`cut ${x},${y}`, w, h));
  }) as typeof createImageBitmap;
});
afterEach(() => {
  globalThis.createImageBitmap = before;
});

const context = new Proxy({}, { get: () => () => undefined, set: () => true });
globalThis.OffscreenCanvas = class {
  width = 0;
  height = 0;
  getContext = () => context;
} as unknown as typeof OffscreenCanvas;
const canvas = { width: 0, height: 0, getContext: () => context } as unknown as HTMLCanvasElement;

/** A page of so many points, one a unit, that is drawn in parts; what was asked of it. */
function page(width = 2000, height = 1500) {
  const asked: string[] = [];
  const source: TileSource = {
    level: () => ({ key: "l", width, height }),
    part: (_: Level, { x, y, width, height }: Part) => {
      asked.push(`part ${x},${y} ${width}x${height}`);
      return Promise.resolve(picture("part", width, height));
    },
    tile: (_: Level, { column, row }: TileAt) => {
      asked.push(`tile ${column},${row}`);
      return Promise.resolve(picture(`tile ${column},${row}`, 512, 512));
    },
    showLayers: () => undefined,
    showMarks: () => undefined,
    end: () => undefined,
  };
  const faults: string[] = [];
  const painter = new TilePainter(canvas, [0, 0, width, height], [width / 2, height / 2], source, (words) =>
    faults.push(words),
  );
  const draw = (x: number, y: number) =>
    painter.draw({ x, y, scale: 1 }, 1536, 1536, { width: 1100, height: 1100 }, 1, 1, () => undefined);
  return { asked, faults, painter, draw };
}
const settled = () => new Promise((done) => setTimeout(done, 5));

test("tiles that lie in the part that was drawn are cut from it; those around it are drawn", async () => {
  const { asked, faults, draw } = page();
  assert.equal(await draw(0, 0), true);
  await settled();
  assert.deepEqual(faults, []);
  // The window shows 450 to 1550 across and 200 to 1300 down: of the tiles, whole only those of the second column and second row.
  assert.equal(asked[0], "part 450,200 1100x1100");
  const cut = pictures.filter((p) => p.of.startsWith("cut"));
  assert.deepEqual(
    cut.map((p) => `${p.of} ${p.width}x${p.height}`),
    ["cut 62,312 512x512", "cut 574,312 512x512"],
  );
  const drawn = asked.filter((a) => a.startsWith("tile"));
  assert.equal(new Set(drawn).size, drawn.length, "none twice");
  assert.ok(!drawn.includes("tile 1,1"), "not what is there already");
  assert.ok(drawn.includes("tile 0,0"), "what the window shows a part of");
  assert.deepEqual(
    pictures.filter((p) => p.of === "part").map((p) => p.isClosed),
    [true],
  );
});

test("a view that is all there is asked for nothing again", async () => {
  const { asked, draw } = page();
  await draw(0, 0);
  await settled();
  const once = asked.length;
  await draw(0, 0);
  await settled();
  assert.equal(asked.length, once);
});

test("tiles of the last views are kept, however far one goes, and those of the view among them", async () => {
  const { asked, draw } = page(40_000, 2000);
  for (let n = 0; n < 12; n++) {
    // Coming back to the first each time.
    await draw(-18_000, 0);
    await settled();
    await draw(-18_000 + 3000 * n, 0);
    await settled();
  }
  const open = pictures.filter((p) => !p.isClosed).length;
  assert.ok(open >= 32 && open <= 48, `${open} tiles`);
  const once = asked.length;
  for (const x of [-18_000, -18_000 + 3000 * 11]) await draw(x, 0);
  await settled();
  assert.equal(asked.length, once);
  assert.equal(
    new Set(asked.filter((a) => a.startsWith("tile"))).size,
    asked.filter((a) => a.startsWith("tile")).length,
  );
});
