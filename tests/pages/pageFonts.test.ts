import assert from "node:assert/strict";
import { test } from "node:test";
import { tableOf } from "../../web/src/viewer/surface/pageFonts";

/** A font of two tables, lying at an odd place in its buffer as what was fetched may. */
function font() {
  const bytes = new Uint8Array(60).fill(0);
  const view = new DataView(bytes.buffer, 3);
  view.setUint16(4, 2);
  const entry = (i: number, tag: number, at: number, length: number) => {
    view.setUint32(12 + i * 16, tag);
    view.setUint32(12 + i * 16 + 8, at);
    view.setUint32(12 + i * 16 + 12, length);
  };
  entry(0, 0x636d6170, 44, 4);
  entry(1, 0x676c7966, 48, 2);
  bytes.set([1, 2, 3, 4, 5, 6], 3 + 44);
  return bytes.subarray(3);
}

test("a table of a font is found by its name", () => {
  assert.deepEqual([...tableOf(font(), 0x636d6170)!], [1, 2, 3, 4]);
  assert.deepEqual([...tableOf(font(), 0x676c7966)!], [5, 6]);
  assert.equal(tableOf(font(), 0x4f532f32), null);
});
