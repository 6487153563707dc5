import { kindColour, kindFill } from "../notes/kinds";
import type { SceneOver } from "../viewer/scene/sceneProps";
import type { Lying } from "./lying";

type Props = {
  marks: readonly Lying[];
  over: SceneOver;
  pickedMark: string | null;
  pickedNote: string | null;
  onPick: (mark: Lying) => void;
};

/**
 * The spots of a model that notes speak of: a leader from the spot to the note's number, as on a drawing. One that is not surely found
 * again says so; one that something hides is dashed, as lines are that are hidden (ISO 128-2, line 02.1).
 */
export function PinMarks({ marks, over, pickedMark, pickedNote, onPick }: Props) {
  return marks.map((m) => {
    if (m.shape.shape !== "pin" || !m.note) return null;
    const at = over.place(m.shape, m.id);
    if (!at) return null;
    const isPicked = m.id === pickedMark || m.note.id === pickedNote;
    const { number, kind, standing, body } = m.note;
    const isUnsure = over.howFound(m.id) === "unsure";
    const hiding = at.isHidden ? "; behind what is shown" : "";
    const sureness = isUnsure ? "; not surely found again on this draft" : "";
    return (
      <div
        key={m.id}
        data-on-sheet
        className={`absolute z-10 ${standing === "closed" ? "opacity-60" : ""}`}
        style={{ left: at.x, top: at.y }}
      >
        <svg
          width="40"
          height="34"
          className="pointer-events-none absolute -top-[34px] left-0 text-ink"
          aria-hidden="true"
        >
          <line
            x1="1"
            y1="33"
            x2="26"
            y2="10"
            stroke="currentColor"
            strokeWidth="1.3"
            strokeDasharray={at.isHidden ? "2 2" : m.from ? "4 3" : undefined}
          />
          <circle cx="2" cy="32" r="2.4" className={isUnsure ? "fill-paper stroke-current" : "fill-current"} />
        </svg>
        <button
          type="button"
          data-testid={`badge-${number}`}
          aria-label={`${kind} ${number}, ${standing}: ${body}${sureness}${hiding}`}
          title={isUnsure ? "Not surely found again on this draft. Its author can show where it is." : undefined}
          className={`absolute -top-[36px] left-[24px] min-h-5 min-w-6 rounded-[3px] px-1 text-center font-narrow text-xs font-semibold ${at.isHidden ? `border border-dashed bg-raised leading-4 ${kindColour[kind]}` : `leading-5 text-on ${kindFill[kind]}`} ${isPicked ? "outline-2 outline-offset-1 outline-ink" : ""}`}
          onClick={() => onPick(m)}
        >
          {number}
          {isUnsure && "?"}
        </button>
      </div>
    );
  });
}
