import type { OverCells } from "../viewer/table/layout";
import { kindColour, kindFill } from "../notes/kinds";
import type { Lying } from "./lying";

type Props = {
  marks: readonly Lying[];
  over: OverCells;
  pickedMark: string | null;
  pickedNote: string | null;
  onPick: (mark: Lying) => void;
};

/** The markups over the cells of a table, with the numbers of their notes; what is carried from an earlier draft is dashed. */
export function RangeMarks({ marks, over, pickedMark, pickedNote, onPick }: Props) {
  return marks.map((m) => {
    if (m.shape.shape !== "cells" || !over.meets(m.shape)) return null;
    const box = over.box(m.shape);
    const isPicked = m.id === pickedMark || (m.note !== null && m.note.id === pickedNote);
    return (
      <div key={m.id}>
        <div
          data-testid={m.note ? `range-${m.note.number}` : undefined}
          className={`pointer-events-none absolute border-current ${m.note ? kindColour[m.note.kind] : "text-spruce"} ${m.from ? "border-dashed" : ""} ${m.note?.standing === "closed" ? "opacity-45" : ""}`}
          style={{
            ...box,
            borderWidth: isPicked ? 3 : 2,
            backgroundColor: "color-mix(in srgb, currentColor 8%, transparent)",
          }}
        />
        {m.note && over.holds({ row: m.shape.from.y, column: m.shape.to.x }) && (
          <button
            type="button"
            data-on-sheet
            data-testid={`badge-${m.note.number}`}
            aria-label={`${m.note.kind} ${m.note.number}, ${m.note.standing}: ${m.note.body}`}
            className={`absolute z-[1] min-h-5 min-w-6 rounded-[3px] px-1 text-center font-narrow text-xs leading-5 font-semibold text-on ${kindFill[m.note.kind]} ${isPicked ? "outline-2 outline-offset-1 outline-ink" : ""}`}
            style={{ left: box.left + box.width - 12, top: Math.max(0, box.top - 10) }}
            onClick={() => onPick(m)}
          >
            {m.note.number}
          </button>
        )}
      </div>
    );
  });
}
