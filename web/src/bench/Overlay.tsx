import type { Shape } from "../api/types";
import { useMemo, useSyncExternalStore } from "react";
import { kindColour, kindFill } from "../notes/kinds";
import { MarkBatch } from "../viewer/MarkBatch";
import { MarkPath } from "../viewer/MarkPath";
import { inks } from "../viewer/pen";
import { anchorOf, handlesOf, labelOf } from "../viewer/shapes";
import type { Place } from "../viewer/sheet";
import { batched } from "./batching";
import type { Lying } from "./lying";
import type { InHand } from "../viewer/tools/inHand";

/** A markup that stands for itself; a highlight is no fault, and looks like none. */
const plain = ({ shape, look }: Lying) =>
  inks[shape.shape === "highlight" && look.ink === "spruce" ? "ochre" : look.ink].line;

/** Where the picture of a shape is to be had. */
const pictureOn = (draft: string, shape: Shape) =>
  shape.shape === "picture" ? `/api/drafts/${draft}/pictures/${shape.picture}` : null;

const classOf = (m: Lying) => (m.note ? kindColour[m.note.kind] : plain(m));

type Props = {
  /** The draft that it lies on. */
  draft: string;
  marks: readonly Lying[];
  inHand: InHand;
  place: Place;
  unit: number;
  /** What a shape says besides its own words, such as the value of a dimension. */
  valueOf: (shape: Shape, note?: string) => string | null;
  pickedMark: string | null;
  /** What else is picked. */
  others?: readonly string[];
  pickedNote: string | null;
  onPick: (mark: Lying) => void;
};

/** The markups over the sheet, with the numbers of their notes; what is carried from an earlier draft is dashed. */
export function Overlay({ draft, marks, inHand, place, unit, valueOf, ...p }: Props) {
  const { preview, along = [], box } = useSyncExternalStore(inHand.subscribe, inHand.stepNow) ?? {};
  const { pickedMark, others = [], pickedNote, onPick } = p;
  const anew = new Map(
    [...(preview?.id ? [{ id: preview.id, shape: preview.shape }] : []), ...along].map((m) => [m.id, m]),
  );
  const isApart = [pickedMark, pickedNote, ...others].join(" ");
  const { apart, together } = useMemo(() => {
    const picked = new Set(isApart.split(" "));
    return batched(marks, (m) => picked.has(m.id) || (m.note !== null && picked.has(m.note.id)), classOf, valueOf);
  }, [marks, isApart, valueOf]);
  // What a note says is not read again with every movement of the hand.
  const values = useMemo(() => new Map(apart.map((m) => [m.id, valueOf(m.shape, m.note?.body)])), [apart, valueOf]);
  const shown = apart.map((m) => (anew.has(m.id) ? { ...m, shape: anew.get(m.id)!.shape } : m));
  const grip = others.length > 0 ? undefined : shown.find((m) => m.id === pickedMark && m.mayChange);
  const corners = box && [place(box.from), place(box.to)];
  return (
    <>
      {together.map((alike) => (
        <MarkBatch key={alike.key} alike={alike} place={place} unit={unit} />
      ))}
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden data-testid="markups">
        {shown.map((m) => (
          <MarkPath
            key={m.id}
            shape={m.shape}
            unit={unit}
            {...place(anchorOf(m.shape))}
            className={classOf(m)}
            picture={pictureOn(draft, m.shape)}
            pen={m.look}
            value={anew.has(m.id) ? valueOf(m.shape, m.note?.body) : values.get(m.id)}
            isPicked={m.id === pickedMark || others.includes(m.id) || (m.note !== null && m.note.id === pickedNote)}
            isCarried={m.from !== null}
            isFaint={m.note?.standing === "closed"}
          />
        ))}
        {preview && preview.id === null && (
          <MarkPath
            shape={preview.shape}
            unit={unit}
            {...place(anchorOf(preview.shape))}
            className="text-rust stroke-rust"
            picture={pictureOn(draft, preview.shape)}
            value={valueOf(preview.shape)}
          />
        )}
        {corners && (
          <rect
            x={Math.min(corners[0]!.x, corners[1]!.x)}
            y={Math.min(corners[0]!.y, corners[1]!.y)}
            width={Math.abs(corners[0]!.x - corners[1]!.x)}
            height={Math.abs(corners[0]!.y - corners[1]!.y)}
            className="fill-none stroke-ink"
            strokeDasharray="6 4"
          />
        )}
        {grip &&
          handlesOf(grip.shape).map((h, i) => {
            const at = place(h);
            return <circle key={i} cx={at.x} cy={at.y} r={5} className="fill-paper stroke-ink" strokeWidth={1.5} />;
          })}
      </svg>
      {marks.map((m) => {
        if (!m.note) return null;
        const at = place(labelOf(anew.get(m.id)?.shape ?? m.shape));
        return (
          <button
            key={m.id}
            type="button"
            data-on-sheet
            data-testid={`badge-${m.note.number}`}
            aria-label={`${m.note.kind} ${m.note.number}, ${m.note.standing}: ${m.note.body}`}
            className={`absolute top-0 left-0 min-h-5 min-w-6 rounded-[3px] px-1 text-center font-narrow text-xs leading-5 font-semibold text-on ${kindFill[m.note.kind]} ${m.note.id === pickedNote ? "outline-2 outline-offset-1 outline-ink" : ""}`}
            style={{ transform: `translate(${at.x - 8}px, ${at.y - 18}px)` }}
            onClick={() => onPick(m)}
          >
            {m.note.number}
          </button>
        );
      })}
    </>
  );
}
