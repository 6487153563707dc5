import type { NoteRow, Shape } from "../api/types";
import { ShapePath, type Place } from "../viewer/SheetView";

export const kindColour = {
  remark: "text-slate stroke-slate",
  question: "text-iris stroke-iris",
  request: "text-rust stroke-rust",
} as const;
export const kindFill = { remark: "bg-slate", question: "bg-iris", request: "bg-rust" } as const;

type Props = { notes: NoteRow[]; place: Place; picked: string | null; onPick: (n: NoteRow) => void; draft: string };

/** The markups of the notes over the sheet; a request carried from an earlier draft is dashed. */
export function Overlay({ notes, place, picked, onPick, draft }: Props) {
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
        {notes.map((n) => (
          <g
            key={n.id}
            strokeDasharray={n.places.some((at) => at.draft === draft && at.how === "own") ? undefined : "5 3"}
            opacity={n.standing === "closed" ? 0.45 : 1}
            strokeWidth={n.id === picked ? 3 : undefined}
          >
            <ShapePath shape={n.shape as unknown as Shape} place={place} className={kindColour[n.kind]} />
          </g>
        ))}
      </svg>
      {notes.map((n) => {
        const shape = n.shape as unknown as Shape;
        const [a, b] = [place(shape.from), place(shape.to)];
        const at = shape.shape === "arrow" ? a : { x: Math.max(a.x, b.x), y: Math.min(a.y, b.y) };
        return (
          <button
            key={n.id}
            type="button"
            data-on-sheet
            data-testid={`badge-${n.number}`}
            aria-label={`${n.kind} ${n.number}, ${n.standing}: ${n.body}`}
            className={`absolute top-0 left-0 min-h-5 min-w-6 rounded-[3px] px-1 text-center font-narrow text-xs leading-5 font-semibold text-white ${kindFill[n.kind]} ${n.id === picked ? "outline-2 outline-offset-1 outline-ink" : ""}`}
            style={{ transform: `translate(${at.x - 8}px, ${at.y - 18}px)` }}
            onClick={() => onPick(n)}
          >
            {n.number}
          </button>
        );
      })}
    </>
  );
}
