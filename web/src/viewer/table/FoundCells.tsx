import type { CellRange } from "../../api/types";
import type { Find } from "../find/useFind";
import type { OverCells } from "./layout";

/** The cells in which was found what was looked for. */
export function FoundCells({ find, draft, leaf, over }: { find: Find; draft: string; leaf: number; over: OverCells }) {
  return find.hits.map((h, i) =>
    h.draft !== draft || h.leaf !== leaf
      ? null
      : h.covers.map((c, k) => {
          const at = { x: Math.floor(c.at.x + 1e-9), y: Math.floor(c.at.y) };
          const cell: CellRange = { shape: "cells", from: at, to: at };
          if (!over.meets(cell)) return null;
          return (
            <div
              key={`${i}/${k}`}
              data-testid="found-cell"
              className={`pointer-events-none absolute border ${h === find.active ? "border-2 border-ochre bg-ochre/30" : "border-ochre/60 bg-ochre/15"}`}
              style={over.box(cell)}
            />
          );
        }),
  );
}
