import type { Point } from "../api/types";

/** The grid references of a sheet: where its fields begin and end, and what they are called. */
export type Grid = { columns: readonly number[]; rows: readonly number[]; letters: string };

/** The field that a point lies in, such as D3; empty beside the fields. */
export function zoneOf(grid: Grid | null, { x, y }: Point): string {
  if (!grid) return "";
  const column = between(grid.columns, x);
  const row = between(grid.rows, y);
  // Rows are named from the top, and their edges count from the bottom.
  return column < 0 || row < 0 ? "" : `${grid.letters[grid.rows.length - 2 - row]}${column + 1}`;
}

function between(edges: readonly number[], at: number): number {
  for (let i = 0; i + 1 < edges.length; i++) if (at >= edges[i]! && at <= edges[i + 1]!) return i;
  return -1;
}

/** The corners of a field named by its letter and number, such as D3, in either case; null where the sheet has none of this name. */
export function zoneCorners(grid: Grid | null, name: string): readonly Point[] | null {
  const found = /^\s*([a-z])\s?(\d{1,2})\s*$/i.exec(name);
  if (!grid || !found) return null;
  const column = Number(found[2]) - 1;
  const letter = grid.letters.toUpperCase().indexOf(found[1]!.toUpperCase());
  const row = grid.rows.length - 2 - letter;
  if (letter < 0 || row < 0 || column < 0 || column + 1 >= grid.columns.length) return null;
  return [
    { x: grid.columns[column]!, y: grid.rows[row]! },
    { x: grid.columns[column + 1]!, y: grid.rows[row + 1]! },
  ];
}
