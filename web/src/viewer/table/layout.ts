import type { CellRange, TableFacts } from "../../api/types";

/** A cell, both from 0. */
export type Cell = { row: number; column: number };

/** What lies over some of a table's cells. */
export type OverCells = {
  /** Whether a cell belongs to this part of the table: frozen parts lie apart from the rest. */
  holds(cell: Cell): boolean;
  /** Whether some of a range belongs to it. */
  meets(range: CellRange): boolean;
  /** Where a range lies, in the part's pixels. */
  box(range: CellRange): { left: number; top: number; width: number; height: number };
};

/** Where the rows and columns of a table lie, in pixels at full size. */
export class TableLayout {
  readonly rows: number;
  readonly columns: number;
  private readonly lefts: Float64Array;
  /** Rows of another height, in order, and by how much all up to each are higher than usual. */
  private readonly other: Int32Array;
  private readonly more: Float64Array;
  private readonly usual: number;

  constructor(facts: TableFacts) {
    this.rows = facts.rows;
    this.columns = facts.widths.length;
    this.usual = facts.rowHeight;
    this.lefts = new Float64Array(this.columns + 1);
    facts.widths.forEach((w, i) => (this.lefts[i + 1] = this.lefts[i]! + w));
    this.other = Int32Array.from(facts.heights, (h) => h.row);
    this.more = new Float64Array(facts.heights.length + 1);
    facts.heights.forEach((h, i) => (this.more[i + 1] = this.more[i]! + h.height - this.usual));
  }

  get width() {
    return this.lefts[this.columns]!;
  }
  get height() {
    return this.top(this.rows);
  }
  left(column: number) {
    return this.lefts[column]!;
  }
  /** Where a row begins; the row after the last begins where the table ends. */
  top(row: number) {
    return row * this.usual + this.more[firstOver(this.other, row)]!;
  }

  /** A place as a row and the share of it that lies above. */
  rowShare(y: number) {
    const row = this.rowAt(y);
    const height = this.top(row + 1) - this.top(row);
    return height > 0 ? row + Math.min(1, (y - this.top(row)) / height) : row;
  }
  columnShare(x: number) {
    const column = this.columnAt(x);
    const width = this.left(column + 1) - this.left(column);
    return width > 0 ? column + Math.min(1, (x - this.left(column)) / width) : column;
  }
  /** Where such a place lies; beyond the last row at the table's end. */
  topOf(share: number) {
    const row = Math.min(Math.floor(share), this.rows - 1);
    return this.top(row) + Math.min(1, share - row) * (this.top(row + 1) - this.top(row));
  }
  leftOf(share: number) {
    const column = Math.min(Math.floor(share), this.columns - 1);
    return this.left(column) + Math.min(1, share - column) * (this.left(column + 1) - this.left(column));
  }

  columnAt(x: number) {
    return Math.max(
      0,
      Math.min(
        this.columns - 1,
        lastAt(this.columns, (c) => this.left(c), x),
      ),
    );
  }
  rowAt(y: number) {
    return Math.max(
      0,
      Math.min(
        this.rows - 1,
        lastAt(this.rows, (r) => this.top(r), y),
      ),
    );
  }
}

/** How many of an ordered list are less than a number. */
function firstOver(list: Int32Array, than: number): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle]! < than) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The last of those that begin at or before a place. */
function lastAt(count: number, begin: (i: number) => number, at: number): number {
  let [low, high] = [0, count];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (begin(middle) <= at) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** The letters of a column: A to Z, AA, AB … */
export function letters(column: number): string {
  let name = "";
  for (let left = column + 1; left > 0; left = Math.floor((left - 1) / 26))
    name = String.fromCharCode(65 + ((left - 1) % 26)) + name;
  return name;
}

/** The range that has two cells at opposite corners. */
export const rangeOf = (a: Cell, b: Cell): CellRange => ({
  shape: "cells",
  from: { x: Math.min(a.column, b.column), y: Math.min(a.row, b.row) },
  to: { x: Math.max(a.column, b.column), y: Math.max(a.row, b.row) },
});

/** What people call a range: “B12”, “B12:D14”, “rows 12 to 14” where it goes right across; the server says the same (CellRange.Words). */
export function rangeWords({ from, to }: CellRange, rows: number, columns: number): string {
  if (from.x === 0 && to.x === columns - 1 && columns > 1)
    return from.y === to.y ? `row ${from.y + 1}` : `rows ${from.y + 1} to ${to.y + 1}`;
  if (from.y === 0 && to.y === rows - 1 && rows > 1)
    return from.x === to.x ? `column ${letters(from.x)}` : `columns ${letters(from.x)} to ${letters(to.x)}`;
  const first = `${letters(from.x)}${from.y + 1}`;
  return from.x === to.x && from.y === to.y ? first : `${first}:${letters(to.x)}${to.y + 1}`;
}
