import { inks } from "../viewer/pen";
import type { SceneOver } from "../viewer/scene/sceneProps";
import type { Lying } from "./lying";

/** What the words of a measure take of the window's width, CSS pixels. */
const ROOM = 130;

type Props = { marks: readonly Lying[]; over: SceneOver; pickedMark: string | null; onPick: (mark: Lying) => void };

/** Measures of a model that were kept: the way between their ends, and what it comes to on this draft. */
export function MeasureMarks({ marks, over, pickedMark, onPick }: Props) {
  return marks.map((m) => {
    if (m.shape.shape !== "modelMeasure") return null;
    const spots = m.shape.of.map((spot) => over.place(spot));
    const said = over.measured(m.id);
    if (!spots[0] || spots.some((s) => s === null)) return null;
    const ends = said?.ends ?? (spots.length === 2 ? (spots as { x: number; y: number }[]) : null);
    const at = ends ? { x: (ends[0]!.x + ends[1]!.x) / 2, y: (ends[0]!.y + ends[1]!.y) / 2 } : spots[0];
    const { line } = inks[m.look.ink];
    // Near the right edge its words stand to the left.
    const isNearEdge = at.x > 2 * over.plane.place({ x: 0, y: 0 }).x - ROOM;
    const aside = ends ? 8 : 22;
    return (
      <div key={m.id} className={`pointer-events-none absolute inset-0 z-10 ${line}`}>
        {ends && (
          <svg aria-hidden="true" className="absolute inset-0 h-full w-full">
            <line x1={ends[0]!.x} y1={ends[0]!.y} x2={ends[1]!.x} y2={ends[1]!.y} strokeWidth={1.6} />
            {ends.map((p, i) => (
              <circle key={i} cx={p.x} cy={p.y} r={2.6} className="fill-current" />
            ))}
          </svg>
        )}
        {!ends && (
          <svg aria-hidden="true" className="absolute inset-0 h-full w-full">
            <line x1={at.x} y1={at.y} x2={at.x + (isNearEdge ? -22 : 22)} y2={at.y - 18} strokeWidth={1.4} />
            <circle cx={at.x} cy={at.y} r={2.6} className="fill-current" />
          </svg>
        )}
        <button
          type="button"
          data-on-sheet
          data-testid="kept-measure"
          title={said ? `${said.of}, ${said.sureness}` : "What it measures is not known on this draft."}
          aria-label={`Measure: ${said ? `${said.words}, ${said.of}, ${said.sureness}` : "not known"}`}
          className={`pointer-events-auto absolute top-0 left-0 min-h-6 rounded-[3px] border border-current bg-raised px-1 font-mono text-xs leading-5 whitespace-nowrap ${m.id === pickedMark ? "outline-2 outline-offset-1 outline-ink" : ""}`}
          style={{
            transform: `translate(${isNearEdge ? `calc(${at.x - aside}px - 100%)` : `${at.x + aside}px`}, ${at.y - (ends ? 12 : 36)}px)`,
          }}
          onClick={() => onPick(m)}
        >
          {said ? said.words : "?"}
        </button>
      </div>
    );
  });
}
