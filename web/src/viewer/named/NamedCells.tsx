import { ArrowUpRight } from "lucide-react";
import type { CellRange, NamedDocument } from "../../api/types";
import type { OverCells } from "../table/layout";

type Props = {
  named: readonly NamedDocument[];
  over: OverCells;
  /** Opens what is named. */
  onFollow: (to: NamedDocument) => void;
};

/** A small sign at the end of each cell that names a document of the register. */
export function NamedCells({ named, over, onFollow }: Props) {
  return named.flatMap((to) =>
    to.places.map(({ at }, i) => {
      const first = { x: Math.floor(at.x + 1e-9), y: Math.floor(at.y) };
      const cell: CellRange = { shape: "cells", from: first, to: first };
      if (!over.meets(cell)) return null;
      const { left, top, width, height } = over.box(cell);
      const size = Math.min(height - 2, 18);
      return (
        <button
          key={`${to.name.document}/${i}`}
          type="button"
          data-on-sheet
          aria-label={`Open ${to.name.number} beside`}
          title={`${to.name.number} ${to.name.label} ${to.name.title}`}
          className="pointer-events-auto absolute flex items-center justify-center rounded-[3px] bg-raised text-iris hover:bg-iris hover:text-on"
          style={{ left: left + width - size - 1, top: top + (height - size) / 2, width: size, height: size }}
          onPointerDown={(e) => e.stopPropagation()}
          onClick={() => onFollow(to)}
        >
          <ArrowUpRight size={size - 4} strokeWidth={1.8} />
        </button>
      );
    }),
  );
}
