import type { Point } from "../../api/types";
import type { Place } from "../sheet";

/** A way between two points of a section that lies flat. */
export type FlatWay = { from: Point; to: Point; words: string; isKept: boolean };

type Props = { ways: readonly FlatWay[]; waiting: FlatWay | null; near: Point | null; place: Place };

/** What is measured on a section that lies flat: what is kept is inked, what is not yet is rust. */
export function FlatMeasures({ ways, waiting, near, place }: Props) {
  const line = ({ from, to, words, isKept }: FlatWay, key: number | string, isWaiting = false) => {
    const [a, b] = [place(from), place(to)];
    return (
      <g key={key} className={isKept ? "text-ink" : "text-rust"} data-testid={isKept ? "kept-on-flat" : undefined}>
        <line
          x1={a.x}
          y1={a.y}
          x2={b.x}
          y2={b.y}
          stroke="currentColor"
          strokeWidth={1.5}
          strokeDasharray={isWaiting ? "5 4" : undefined}
        />
        <circle cx={a.x} cy={a.y} r={3} className="fill-current" />
        <circle cx={b.x} cy={b.y} r={3} className="fill-current" />
        <text
          x={(a.x + b.x) / 2 + 8}
          y={(a.y + b.y) / 2 - 8}
          className="fill-current font-mono text-sm font-semibold [paint-order:stroke] [stroke-width:4px] [stroke:var(--color-paper)]"
        >
          {words}
        </text>
      </g>
    );
  };
  const at = near && place(near);
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
      {ways.map((way, i) => line(way, i))}
      {waiting && line(waiting, "now", true)}
      {at && <circle cx={at.x} cy={at.y} r={6} className="fill-none stroke-rust" strokeWidth={2} />}
    </svg>
  );
}
