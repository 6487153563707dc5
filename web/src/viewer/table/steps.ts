import type { Cell, TableLayout } from "./layout";

type Key = { key: string; ctrlKey: boolean; metaKey: boolean };

/** Where a key leads from the cell one is at; null when it leads nowhere. */
export function stepFrom(
  at: Cell | null,
  { key, ctrlKey, metaKey }: Key,
  layout: TableLayout,
  page: number,
): Cell | null {
  const far = ctrlKey || metaKey;
  const last = { row: layout.rows - 1, column: layout.columns - 1 };
  const bounded = (row: number, column: number): Cell => ({
    row: Math.max(0, Math.min(last.row, row)),
    column: Math.max(0, Math.min(last.column, column)),
  });
  const { row, column } = at ?? { row: 0, column: 0 };
  // The first step is onto the first cell.
  const one = at ? 1 : 0;
  switch (key) {
    case "ArrowUp":
      return bounded(far ? 0 : row - one, column);
    case "ArrowDown":
      return bounded(far ? last.row : row + one, column);
    case "ArrowLeft":
      return bounded(row, far ? 0 : column - one);
    case "ArrowRight":
      return bounded(row, far ? last.column : column + one);
    case "PageUp":
      return bounded(row - page, column);
    case "PageDown":
      return bounded(row + page, column);
    case "Home":
      return bounded(far ? 0 : row, 0);
    case "End":
      return bounded(far ? last.row : row, last.column);
    default:
      return null;
  }
}
