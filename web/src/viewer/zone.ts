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
