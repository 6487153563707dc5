import type { WindowPoint } from "../camera/points";
import { cornersOf } from "../find/useFind";
import type { Place } from "../sheet";
import type { Link } from "./links";

type Props = {
  links: readonly Link[];
  place: Place;
};

/** Least height of a number in the window, in CSS pixels, for it to be a link: what cannot be read cannot be aimed at. */
const LEGIBLE = 5;

/** Numbers on a sheet that lead somewhere: a dotted line under each, and what it is when pointed at. */
export function NamedMarks({ links, place }: Props) {
  return links.flatMap((to) =>
    to.places.map((stretch, i) => {
      const [a, b, c, d] = cornersOf(stretch).map(place) as [WindowPoint, WindowPoint, WindowPoint, WindowPoint];
      if (Math.hypot(d.x - a.x, d.y - a.y) < LEGIBLE) return null;
      const xs = [a.x, b.x, c.x, d.x];
      const ys = [a.y, b.y, c.y, d.y];
      const [left, top] = [Math.min(...xs), Math.min(...ys)];
      const [width, height] = [Math.max(...xs) - left, Math.max(...ys) - top];
      return (
        <button
          key={`${to.key}/${i}`}
          type="button"
          data-on-sheet
          aria-label={to.words}
          aria-pressed={to.isPicked || undefined}
          title={to.title}
          className={`absolute top-0 left-0 hover:bg-iris/10 ${to.isPicked ? "bg-iris/20 outline-1 outline-iris" : ""}`}
          style={{ transform: `translate(${left}px, ${top}px)`, width, height }}
          onClick={to.onFollow}
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
