import type { Place } from "../sheet";
import type { Measured } from "./scale";

/** Half of the strokes across the line's ends, in CSS pixels. */
const END = 7;

/** The line between two points whose distance is to be said, with a stroke across each end. */
export function ScaleLine({ line: { from, to }, place }: { line: Measured; place: Place }) {
  const [a, b] = [place(from), place(to)];
  const far = Math.hypot(b.x - a.x, b.y - a.y) || 1;
  const [nx, ny] = [(-(b.y - a.y) / far) * END, ((b.x - a.x) / far) * END];
  const path = `M${a.x} ${a.y}L${b.x} ${b.y}${[a, b].map((p) => `M${p.x - nx} ${p.y - ny}L${p.x + nx} ${p.y + ny}`).join("")}`;
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden data-testid="scale-line">
      <path d={path} className="fill-none stroke-paper" strokeWidth={5} />
      <path d={path} className="fill-none stroke-ink" strokeWidth={1.75} />
    </svg>
  );
}
