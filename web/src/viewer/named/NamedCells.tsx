import { ArrowUpRight } from "lucide-react";
import type { CellRange } from "../../api/types";
import type { OverCells } from "../table/layout";
import type { Link } from "./links";

type Props = {
  links: readonly Link[];
  over: OverCells;
};

/** A small sign at the end of each cell with a number that leads somewhere. */
export function NamedCells({ links, over }: Props) {
  return links.flatMap((to) =>
    to.places.map(({ at }, i) => {
      const first = { x: Math.floor(at.x + 1e-9), y: Math.floor(at.y) };
      const cell: CellRange = { shape: "cells", from: first, to: first };
      if (!over.meets(cell)) return null;
      const { left, top, width, height } = over.box(cell);
      const size = Math.min(height - 2, 18);
      return (
        <button
          key={`${to.key}/${i}`}
          type="button"
          data-on-sheet
          aria-label={to.words}
          aria-pressed={to.isPicked || undefined}
          title={to.title}
          className={`pointer-events-auto absolute flex items-center justify-center rounded-[3px] hover:bg-iris hover:text-on ${to.isPicked ? "bg-iris text-on" : "bg-raised text-iris"}`}
          style={{ left: left + width - size - 1, top: top + (height - size) / 2, width: size, height: size }}
          onPointerDown={(e) => e.stopPropagation()}
          onClick={to.onFollow}
        >
          <ArrowUpRight size={size - 4} strokeWidth={1.8} />
        </button>
      );
    }),
  );
}
