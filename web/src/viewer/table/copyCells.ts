import type { CellRange } from "../../api/types";
import type { TableBlocks } from "./blocks";

/** Most rows that are copied at once. */
const MOST = 10_000;

/** Puts cells on the clipboard, as other programs take them: tabs between columns, a line for each row. */
export async function copyCells(blocks: TableBlocks, { from, to }: CellRange) {
  const rows = await blocks.rows(from.y, Math.min(to.y, from.y + MOST - 1));
  const lines = rows.map((row) => {
    const cells = new Map(row?.cells.map((c) => [c.column, c.text]));
    return Array.from({ length: to.x - from.x + 1 }, (_, i) =>
      (cells.get(from.x + i) ?? "").replace(/[\t\r\n]+/g, " "),
    ).join("\t");
  });
  await navigator.clipboard.writeText(lines.join("\n"));
}
