import type { CellRange, TableFacts } from "../../api/types";
import { letters, type TableLayout } from "./layout";
import type { Stretch } from "./Pane";

type Props = {
  facts: TableFacts;
  layout: TableLayout;
  zoom: number;
  range: CellRange | null;
  headWidth: number;
  headHeight: number;
  /** Whose numbers stand at the left; null for none. */
  rows: Stretch | null;
  /** Whose letters stand at the top; null for none. */
  columns: Stretch | null;
  isCorner?: boolean;
  /** How far what is seen of a very long table lies from where it would. */
  shift?: number;
};

const look = "absolute flex items-center justify-center border-edge text-xs tabular-nums";

/** The letters of columns and the numbers of rows; those that the file hides are hatched. */
export function TableHeads({
  facts,
  layout,
  zoom,
  range,
  headWidth,
  headHeight,
  rows,
  columns,
  isCorner,
  shift = 0,
}: Props) {
  const at = (n: number) => Math.round(n * zoom);
  const isPicked = (n: number, from: number | undefined, to: number | undefined) =>
    from !== undefined && to !== undefined && n >= from && n <= to;
  const isHiddenRow = (row: number) => facts.hiddenRows.some((h) => row >= h.from && row <= h.to);
  return (
    <>
      {columns &&
        list(columns).map((c) => (
          <div
            key={`c${c}`}
            title={facts.hiddenColumns.includes(c) ? "The file hides this column" : undefined}
            className={`${look} border-r ${isPicked(c, range?.from.x, range?.to.x) ? "bg-ink text-raised" : facts.hiddenColumns.includes(c) ? "hatched" : "bg-ground"}`}
            style={{
              left: headWidth + at(layout.left(c)),
              top: 0,
              width: at(layout.left(c + 1)) - at(layout.left(c)),
              height: headHeight,
            }}
          >
            {letters(c)}
          </div>
        ))}
      {rows &&
        list(rows).map((r) => (
          <div
            key={`r${r}`}
            title={isHiddenRow(r) ? "The file hides this row" : undefined}
            className={`${look} border-b ${isPicked(r, range?.from.y, range?.to.y) ? "bg-ink text-raised" : isHiddenRow(r) ? "hatched" : "bg-ground"}`}
            style={{
              left: 0,
              top: headHeight - shift + at(layout.top(r)),
              width: headWidth,
              height: at(layout.top(r + 1)) - at(layout.top(r)),
            }}
          >
            {r + 1}
          </div>
        ))}
      {isCorner && (
        <div
          className="absolute top-0 left-0 border-r border-b border-edge bg-table"
          style={{ width: headWidth, height: headHeight }}
        />
      )}
    </>
  );
}

const list = ({ from, to }: Stretch) => Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i);
