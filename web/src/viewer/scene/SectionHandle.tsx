import { useRef } from "react";
import { add, placeOf, times, type Eye, type V3 } from "../camera/eye";
import { rangeOf, type SectionPlane } from "./sections";

type Props = {
  eye: Eye;
  section: SectionPlane;
  box: readonly number[];
  frame: React.RefObject<HTMLElement | null>;
  onMove: (at: number) => void;
};

/** Shorter than this on the screen, in CSS pixels a tenth of the model, the way of a plane cannot be followed by hand. */
const SHORT = 6;

/** An arrow that stands on a plane: it is drawn along by hand. The slider beside does the same by key. */
export function SectionHandle({ eye, section, box, frame, onMove }: Props) {
  const held = useRef<{ x: number; y: number; at: number } | null>(null);
  const element = frame.current;
  if (!element) return null;
  const [least, greatest] = rangeOf(section.along, box);
  const middle: V3 = [(box[0]! + box[3]!) / 2, (box[1]! + box[4]!) / 2, (box[2]! + box[5]!) / 2];
  const away = section.along.reduce((sum, a, k) => sum + a * middle[k]!, 0);
  const stands = add(middle, times(section.at - away, section.along));
  const step = (greatest - least) / 10 || 1;
  const [here, there] = [stands, add(stands, times(step, section.along))].map((p) =>
    placeOf(eye, p, element.clientWidth, element.clientHeight),
  );
  const [dx, dy] = [there!.x - here!.x, there!.y - here!.y];
  const long = Math.hypot(dx, dy);
  if (!(long > SHORT) || here!.depth <= 0) return null;
  const [ux, uy] = [dx / long, dy / long];
  return (
    <div
      data-on-sheet
      data-testid="section-handle"
      title={`Draw ${section.name} along`}
      className="absolute top-0 left-0 z-20 h-8 w-8 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none active:cursor-grabbing"
      style={{ left: here!.x, top: here!.y }}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { x: e.clientX, y: e.clientY, at: section.at };
      }}
      onPointerMove={(e) => {
        const h = held.current;
        if (!h) return;
        // As far along the plane's way on the screen as the hand went.
        const went = ((e.clientX - h.x) * ux + (e.clientY - h.y) * uy) / long;
        onMove(Math.max(least, Math.min(greatest, h.at + went * step)));
      }}
      onPointerUp={() => (held.current = null)}
      onPointerCancel={() => (held.current = null)}
    >
      <svg viewBox="-16 -16 32 32" className="h-8 w-8 overflow-visible" aria-hidden="true">
        <circle r="7" className="fill-raised stroke-rust" strokeWidth="2" />
        <g className="stroke-rust" strokeWidth="2" fill="none">
          <line x1={ux * 7} y1={uy * 7} x2={ux * 26} y2={uy * 26} />
          <path
            d={`M ${ux * 26 - (ux + uy * 0.6) * 7} ${uy * 26 - (uy - ux * 0.6) * 7} L ${ux * 26} ${uy * 26} L ${ux * 26 - (ux - uy * 0.6) * 7} ${uy * 26 - (uy + ux * 0.6) * 7}`}
          />
        </g>
      </svg>
    </div>
  );
}
