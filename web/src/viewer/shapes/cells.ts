import type { CellRange } from "../../api/types";
import type { ShapeKind } from "./shape";

/** A range of a table's cells, in columns and rows; it is picked anew rather than reshaped. */
export const cells: ShapeKind<CellRange> = {
  detail: 1,
  outline({ from, to }) {
    const [left, top, right, bottom] = [from.x, from.y, to.x + 1, to.y + 1];
    return {
      lines: [
        [
          { x: left, y: top },
          { x: right, y: top },
          { x: right, y: bottom },
          { x: left, y: bottom },
          { x: left, y: top },
        ],
      ],
      fill: "tint",
    };
  },
  label: ({ from, to }) => ({ x: to.x + 1, y: from.y }),
  anchor: ({ from, to }) => ({ x: (from.x + to.x + 1) / 2, y: (from.y + to.y + 1) / 2 }),
  handles: () => [],
  reshaped: (shape) => shape,
  moved: (shape) => shape,
  hasSize: () => true,
};
