import type { NamedDocument } from "../../api/types";
import { cornersOf } from "../find/useFind";
import type { Place } from "../sheet";

type Props = {
  named: readonly NamedDocument[];
  place: Place;
  /** Opens what is named. */
  onFollow: (to: NamedDocument) => void;
};

/** Least height of a number in the window, in CSS pixels, for it to be a link: what cannot be read cannot be aimed at. */
const LEGIBLE = 5;

/** Numbers on a sheet that are documents of the register: a dotted line under each, and what it is when pointed at. */
export function NamedMarks({ named, place, onFollow }: Props) {
  return named.flatMap((to) =>
    to.places.map((stretch, i) => {
      const [a, b, c, d] = cornersOf(stretch).map(place) as [Corner, Corner, Corner, Corner];
      if (Math.hypot(d.x - a.x, d.y - a.y) < LEGIBLE) return null;
      const xs = [a.x, b.x, c.x, d.x];
      const ys = [a.y, b.y, c.y, d.y];
      const [left, top] = [Math.min(...xs), Math.min(...ys)];
      const [width, height] = [Math.max(...xs) - left, Math.max(...ys) - top];
      return (
        <button
          key={`${to.name.document}/${i}`}
          type="button"
          data-on-sheet
          aria-label={`Open ${to.name.number} beside`}
          title={`${to.name.number} ${to.name.label} ${to.name.title}`}
          className="absolute top-0 left-0 hover:bg-iris/10"
          style={{ transform: `translate(${left}px, ${top}px)`, width, height }}
          onClick={() => onFollow(to)}
        >
          <svg className="pointer-events-none absolute inset-0 h-full w-full overflow-visible" aria-hidden>
            <line
              x1={a.x - left}
              y1={a.y - top}
              x2={b.x - left}
              y2={b.y - top}
              className="stroke-iris"
              strokeWidth={1.5}
              strokeDasharray="1.5 2.5"
              strokeLinecap="round"
            />
          </svg>
        </button>
      );
    }),
  );
}

type Corner = { x: number; y: number };
