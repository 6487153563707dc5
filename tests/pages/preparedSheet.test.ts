import assert from "node:assert/strict";
import { describe, test } from "node:test";
import { readPreparedSheet, sectionsOf } from "../../web/src/viewer/surface/preparedSheet";

const head = {
  name: "Model",
  unit: "millimetre",
  origin: [5, 2],
  extents: [0, 0, 10, 4],
  tolerance: 0.01,
  layers: [{ name: "0", isOn: true, rgb: 0 }],
  styles: [[0, 0, 25]],
  segments: 1,
  triangles: 1,
  entities: 1,
  runs: [-5, -2, 5, -2],
  texts: [],
};
const strokes = new Float32Array([-5, -2, 5, -2]);
const corners = new Float32Array([-5, -2, -1, -2, -5, 2]);
const zero = new Uint32Array([0]);

const bytes = (array: ArrayBufferView) => new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
const json = (value: unknown) => new TextEncoder().encode(JSON.stringify(value));

/** A form of version 2: each section at a multiple of 8. */
function sectioned(sections: [string, Uint8Array][]): ArrayBuffer {
  const aligned = (n: number) => (n + 7) & ~7;
  let at = aligned(12 + 12 * sections.length);
  const places = sections.map(([tag, section]) => {
    const place = { tag, section, at };
    at = aligned(at + section.length);
    return place;
  });
  const buffer = new ArrayBuffer(at);
  const view = new DataView(buffer);
  new Uint8Array(buffer).set(new TextEncoder().encode("FRSH"));
  view.setUint32(4, 2, true);
  view.setUint32(8, sections.length, true);
  places.forEach((p, i) => {
    new Uint8Array(buffer).set(new TextEncoder().encode(p.tag), 12 + 12 * i);
    view.setUint32(16 + 12 * i, p.at, true);
    view.setUint32(20 + 12 * i, p.section.length, true);
    new Uint8Array(buffer).set(p.section, p.at);
  });
  return buffer;
}

const drawn: [string, Uint8Array][] = [
  ["HEAD", json(head)],
  ["XTRA", new Uint8Array([1, 2, 3])],
  ["STRK", bytes(strokes)],
  ["STRE", bytes(zero)],
  ["TRIA", bytes(corners)],
  ["TRIE", bytes(zero)],
  ["HAND", bytes(new Uint32Array([31, 0]))],
  ["STYL", bytes(new Uint16Array([0]))],
];

/** A form of version 1: the same numbers one after another behind the head. */
function inFixedOrder(): ArrayBuffer {
  const words = json(head);
  const padded = new Uint8Array((words.length + 3) & ~3).fill(32);
  padded.set(words);
  const parts = [
    bytes(strokes),
    bytes(zero),
    bytes(corners),
    bytes(zero),
    bytes(new Uint32Array([31, 0])),
    bytes(new Uint16Array([0])),
  ];
  const buffer = new ArrayBuffer(12 + padded.length + parts.reduce((sum, p) => sum + p.length, 0));
  const view = new DataView(buffer);
  new Uint8Array(buffer).set(new TextEncoder().encode("FRSH"));
  view.setUint32(4, 1, true);
  view.setUint32(8, padded.length, true);
  let at = 12;
  for (const part of [padded, ...parts]) {
    new Uint8Array(buffer).set(part, at);
    at += part.length;
  }
  return buffer;
}

describe("a prepared sheet", () => {
  for (const [version, form] of [
    ["of today, past a section nobody knows", sectioned(drawn)],
    ["that an earlier reader made", inFixedOrder()],
  ] as const)
    test(`${version} is read`, () => {
      const sheet = readPreparedSheet(form);
      assert.deepEqual([...sheet.segments], [...strokes]);
      assert.deepEqual([...sheet.triangles], [...corners]);
      assert.deepEqual([[...sheet.segmentEntity], [...sheet.triangleEntity], [...sheet.entityStyle]], [[0], [0], [0]]);
      assert.deepEqual([sheet.name, sheet.unit, sheet.origin], ["Model", "millimetre", [5, 2]]);
    });

  test("of a version to come is refused in words, and so is one that lacks a section", () => {
    const later = sectioned(drawn);
    new DataView(later).setUint32(4, 3, true);
    assert.throws(() => readPreparedSheet(later), /version 1 or 2: FRSH 3/);
    assert.throws(() => readPreparedSheet(sectioned(drawn.filter(([tag]) => tag !== "TRIE"))), /no section TRIE/);
    assert.throws(
      () => readPreparedSheet(new TextEncoder().encode("%PDF-1.7 and more of it").buffer as ArrayBuffer),
      /Not a prepared sheet/,
    );
  });

  test("tells where each section lies", () => {
    const section = sectionsOf(sectioned(drawn));
    assert.equal(section("STRK").length, 16);
    assert.equal(section("STRK").at % 8, 0);
  });
});
