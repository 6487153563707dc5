import assert from "node:assert/strict";
import { after, test } from "node:test";
import type { PageFacts, TilePyramid } from "../../web/src/api/types";
import type { Pages } from "../../web/src/viewer/surface/pages";
import { pageTiles, pictureTiles } from "../../web/src/viewer/surface/tiles";

const asked: string[] = [];
const bitmap = {} as ImageBitmap;
const before = [globalThis.fetch, globalThis.createImageBitmap] as const;
globalThis.fetch = ((url: string) => {
  asked.push(url);
  return Promise.resolve(new Response("tile"));
}) as typeof fetch;
globalThis.createImageBitmap = (() => Promise.resolve(bitmap)) as typeof createImageBitmap;
after(() => ([globalThis.fetch, globalThis.createImageBitmap] = before));

const pages = {
  hold: () => undefined,
  letGo: () => undefined,
  open: () => void asked.push("opened"),
  tile: (tile: { width: number; marks: boolean }, change: unknown) => {
    asked.push(`drawn ${tile.width}${tile.marks ? "" : " without marks"}${change ? " switched" : ""}`);
    return Promise.resolve(bitmap);
  },
} as unknown as Pages;
const facts = {
  page: 0,
  layers: [
    { name: "Walls", isOn: true, groups: ["1"] },
    { name: "Ducts", isOn: false, groups: ["2"] },
  ],
  switch: { head: "", tail: "", room: 9 },
} as unknown as PageFacts;
const pyramid = {
  levels: [4000, 2000, 1000].map((width) => ({ width, height: width / 2 })),
} as unknown as TilePyramid;
const paper = [0, 0, 1000, 500] as const;
const { signal } = new AbortController();
const cut = { url: "/tiles", prepared: 3, pyramid };
/** What is asked for a tile at so many pixels in a unit, and whether any part of the sheet could be had at once. */
async function at(source: ReturnType<typeof pageTiles>, pixelsPerUnit: number) {
  asked.length = 0;
  const level = source.level(pixelsPerUnit);
  await source.tile(level, { column: 1, row: 0 }, signal);
  const one = asked.join(", ");
  const isPart = source.part(level, { x: 0, y: 0, width: 9, height: 9 }, signal) !== null;
  return [one, isPart];
}

test("a page that draws much comes as it was cut, and is drawn where one looks closer", async () => {
  const source = pageTiles(pages, facts, paper, cut);
  assert.deepEqual(await at(source, 0.5), ["/tiles/2/1/0?prepared=3", false]);
  assert.deepEqual(await at(source, 1.5), ["/tiles/1/1/0?prepared=3", false]);
  assert.deepEqual(await at(source, 3.5), ["/tiles/0/1/0?prepared=3", false]);
  // One step before that the file is opened.
  assert.deepEqual(await at(source, 4.4), ["opened, /tiles/0/1/0?prepared=3", false]);
  assert.deepEqual(await at(source, 4.5), ["drawn 4500", true]);
});

test("what was cut shows the file as it is: other layers and a plain sheet are drawn, and the file as it is again is not", async () => {
  const source = pageTiles(pages, facts, paper, cut);
  source.showLayers([true, false]);
  assert.deepEqual(await at(source, 1), ["/tiles/2/1/0?prepared=3", false]);
  source.showMarks(false);
  assert.deepEqual(await at(source, 1), ["drawn 1000 without marks", true]);
  source.showMarks(true);
  assert.deepEqual(await at(source, 1), ["/tiles/2/1/0?prepared=3", false]);
  source.showLayers([true, true]);
  assert.deepEqual(await at(source, 1), ["drawn 1000 switched", true]);
});

test("any other page is drawn at every size; a picture is magnified where it is not fine enough", async () => {
  assert.deepEqual(await at(pageTiles(pages, facts, paper, null), 1), ["drawn 1000", true]);
  const picture = pictureTiles(cut, paper);
  assert.deepEqual(await at(picture, 1.5), ["/tiles/1/1/0?prepared=3", false]);
  assert.deepEqual(await at(picture, 9), ["/tiles/0/1/0?prepared=3", false]);
});
