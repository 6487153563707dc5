import type { CellRange } from "../../api/types";
import type { Cell, OverCells } from "./layout";

/** What is picked of a table: a frame round the range, a stronger one round the cell that one is at. */
export function Picked({ range, head, over }: { range: CellRange; head: Cell; over: OverCells }) {
  const at = { x: head.column, y: head.row };
  return (
    <>
      <div
        className="pointer-events-none absolute bg-ochre/10 outline-2 -outline-offset-1 outline-ink"
        style={over.box(range)}
      />
      <div
        className="pointer-events-none absolute outline-1 -outline-offset-3 outline-ink"
        style={over.box({ shape: "cells", from: at, to: at })}
      />
    </>
  );
}

/** What is picked in words, with all that stands in the cell one is at. */
export function PickedLine({ name, words, onNote }: { name: string; words?: string; onNote: (() => void) | null }) {
  return (
    <div
      role="status"
      className="absolute right-4 bottom-4 z-30 flex max-w-[70%] items-center gap-3 border border-ink bg-raised px-3 py-1.5 shadow-lg"
    >
      <b className="font-semibold whitespace-nowrap">{name}</b>
      <span className="line-clamp-3 break-words whitespace-pre-wrap">{words}</span>
      {onNote && (
        <button type="button" className="min-h-7 bg-spruce px-3 font-medium whitespace-nowrap text-on" onClick={onNote}>
          Write a note <kbd className="ml-1 font-mono text-xs">Enter</kbd>
        </button>
      )}
    </div>
  );
}
