import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import type { TableFacts } from "../../web/src/api/types";
import { copied } from "../../web/src/viewer/table/copyCells";
import { letters, rangeOf, rangeWords, TableLayout } from "../../web/src/viewer/table/layout";
import { stepFrom } from "../../web/src/viewer/table/steps";

const facts = (rows: number, widths: number[], heights: { row: number; height: number }[]): TableFacts => ({
  rows,
  widths,
  rowHeight: 20,
  heights,
  frozenRows: 0,
  frozenColumns: 0,
  hiddenRows: [],
  hiddenColumns: [],
  hasGrid: true,
  merges: [],
  styles: [],
  rowsInBlock: 200,
});

test("rows and columns begin where those before them end, and a place lies in the one that begins at or before it", () => {
  const layout = new TableLayout(
    facts(
      1_000_000,
      [10, 64, 5],
      [
        { row: 0, height: 30 },
        { row: 7, height: 5 },
        { row: 999_999, height: 100 },
      ],
    ),
  );
  assert.deepEqual(
    [0, 1, 2, 3].map((c) => layout.left(c)),
    [0, 10, 74, 79],
  );
  assert.deepEqual(
    [0, 1, 7, 8, 999_999, 1_000_000].map((r) => layout.top(r)),
    [0, 30, 150, 155, 19_999_975, 20_000_075],
  );
  assert.deepEqual(
    [-5, 0, 9.9, 10, 78, 500].map((x) => layout.columnAt(x)),
    [0, 0, 0, 1, 2, 2],
  );
  assert.deepEqual(
    [0, 29.9, 30, 149, 150, 154.9, 155, 3e7].map((y) => layout.rowAt(y)),
    [0, 0, 1, 6, 7, 7, 8, 999_999],
  );
  for (let row = 0; row < 1_000_000; row += 7919) assert.equal(layout.rowAt(layout.top(row)), row);
});

test("columns are counted in letters", () => {
  assert.deepEqual([0, 25, 26, 51, 52, 701, 702, 16_383].map(letters), [
    "A",
    "Z",
    "AA",
    "AZ",
    "BA",
    "ZZ",
    "AAA",
    "XFD",
  ]);
});

type RangeCase = {
  left: number;
  top: number;
  right: number;
  bottom: number;
  rows: number;
  columns: number;
  words: string;
};
const ranges = JSON.parse(readFileSync(new URL("../cases/ranges.json", import.meta.url), "utf8")) as RangeCase[];

test("a range is called as the server calls it, whichever of its corners was picked first", () => {
  assert.ok(ranges.length > 10);
  for (const r of ranges) {
    const [first, last] = [
      { row: r.top, column: r.left },
      { row: r.bottom, column: r.right },
    ];
    assert.equal(rangeWords(rangeOf(first, last), r.rows, r.columns), r.words);
    assert.equal(rangeWords(rangeOf(last, first), r.rows, r.columns), r.words);
  }
});

test("keys step from cell to cell, page to page and end to end, and never off the table", () => {
  const layout = new TableLayout(facts(50, [10, 10, 10], []));
  const step = (at: { row: number; column: number } | null, key: string, ctrlKey = false) =>
    stepFrom(at, { key, ctrlKey, metaKey: false }, layout, 12);
  assert.deepEqual(step(null, "ArrowDown"), { row: 0, column: 0 });
  assert.deepEqual(step({ row: 3, column: 1 }, "ArrowDown"), { row: 4, column: 1 });
  assert.deepEqual(step({ row: 0, column: 2 }, "ArrowRight"), { row: 0, column: 2 });
  assert.deepEqual(step({ row: 45, column: 2 }, "PageDown"), { row: 49, column: 2 });
  assert.deepEqual(step({ row: 45, column: 2 }, "Home", true), { row: 0, column: 0 });
  assert.deepEqual(step({ row: 4, column: 0 }, "ArrowDown", true), { row: 49, column: 0 });
  assert.equal(step({ row: 4, column: 0 }, "x"), null);
});

test("a place is a row and a share of it, and found again by these", () => {
  const layout = new TableLayout(facts(100, [10, 64, 5], [{ row: 3, height: 50 }]));
  assert.deepEqual([layout.rowShare(0), layout.rowShare(30), layout.rowShare(85)], [0, 1.5, 3.5]);
  assert.equal(layout.columnShare(42), 1.5);
  for (const y of [0, 1, 59, 60, 61, 109, 110, 1000, layout.height])
    assert.ok(Math.abs(layout.topOf(layout.rowShare(y)) - y) < 1e-9);
  for (const x of [0, 9, 10, 74, 78, 79]) assert.ok(Math.abs(layout.leftOf(layout.columnShare(x)) - x) < 1e-9);
  // A shorter table ends where it ends.
  assert.equal(layout.topOf(250), layout.height);
});

test("more rows than are copied at once are said", () => {
  assert.equal(copied(10_000), "The cells are copied.");
  assert.match(copied(10_001), /^The first 10,000 of 10,001 rows are copied\./);
});
