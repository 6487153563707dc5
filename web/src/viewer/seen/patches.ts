import type { Box } from "../camera/view";

/** What was not seen of a sheet, as a path in patches from its upper left corner: neighbours of a row are one piece, and nothing reaches over the sheet's edge. */
export function unseenPath(columns: number, rows: number, patches: string, width: number, height: number): string {
  let path = "";
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      if (patches[row * columns + column] !== "1") continue;
      const from = column;
      while (column + 1 < columns && patches[row * columns + column + 1] === "1") column++;
      const right = Math.min(column + 1, width);
      const bottom = Math.min(row + 1, height);
      path += `M${from} ${row}H${right}V${bottom}H${from}z`;
    }
  return path;
}

export type Seen = { area: Box; scale: number };

/** Whether a view shows nothing that an earlier one did not show as large. */
export const isShownBy = (view: Seen, earlier: Seen) =>
  view.scale <= earlier.scale &&
  view.area.left >= earlier.area.left &&
  view.area.right <= earlier.area.right &&
  view.area.bottom >= earlier.area.bottom &&
  view.area.top <= earlier.area.top;
