import type { CellRange } from "../../api/types";
import { tell } from "../../ui/announce";
import { copyText } from "../../ui/copyText";
import type { TableBlocks } from "./blocks";

/** Most rows that are copied at once. */
const MOST = 10_000;

/** Puts cells on the clipboard and says so, as other programs take them: tabs between columns, a line for each row. */
export async function copyCells(blocks: TableBlocks, { from, to }: CellRange) {
  try {
    const rows = await blocks.rows(from.y, Math.min(to.y, from.y + MOST - 1));
    const lines = rows.map((row) => {
      const cells = new Map(row?.cells.map((c) => [c.column, c.text]));
      return Array.from({ length: to.x - from.x + 1 }, (_, i) =>
        (cells.get(from.x + i) ?? "").replace(/[\t\r\n]+/g, " "),
      ).join("\t");
    });
    const isCopied = await copyText(lines.join("\n"));
    tell(isCopied ? copied(to.y - from.y + 1) : "The browser did not let the cells be copied.");
  } catch (e) {
    tell(`The cells could not be copied. ${(e as Error).message}`);
  }
}

/** What is said once so many rows were asked for and copied as far as they are. */
export const copied = (rows: number): string =>
  rows <= MOST
    ? "The cells are copied."
    : `The first ${MOST.toLocaleString("en")} of ${rows.toLocaleString("en")} rows are copied. Copy the rest in further parts, or download the file.`;
