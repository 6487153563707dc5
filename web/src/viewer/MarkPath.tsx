import { memo, useMemo } from "react";
import type { Shape } from "../api/types";
import { anchorOf, outlineOf, reachOf } from "./shapes";
import { breadthOf, dashesOf, usualPen, type Pen } from "./pen";
import { LEADING } from "./shapes/words";

type Props = {
  shape: Shape;
  /** Sheet units per CSS pixel. */
  unit: number;
  /** Where the point that it is about lies in the window. */
  x: number;
  y: number;
  className: string;
  /** The picture within its line; null for none. */
  picture?: string | null;
  pen?: Pen;
  /** What stands at the point it is about, such as the value of a dimension. */
  value?: string | null;
  isPicked?: boolean;
  isCarried?: boolean;
  isFaint?: boolean;
};

/** How high a font's capitals are, in its size; and where the first line's letters stand, in heights of letters below the top. */
const CAPITALS = 0.7;
const FIRST = (LEADING + 1) / 2;
/** The letters of a value, in CSS pixels: as large at every zoom. */
const VALUE = 13;

/** A markup as lines in the window. While the sheet only moves, so do they; they are made anew when it is zoomed. */
export const MarkPath = memo(function MarkPath(p: Props) {
  const { shape, unit, value, pen = usualPen } = p;
  const { d, fill, words } = useMemo(() => {
    const { lines, fill, words } = outlineOf(shape, unit);
    const anchor = anchorOf(shape);
    const parts = lines.map((line) =>
      line
        .map(
          (at, i) =>
            `${i === 0 ? "M" : "L"}${((at.x - anchor.x) / unit).toFixed(2)} ${((anchor.y - at.y) / unit).toFixed(2)}`,
        )
        .join(""),
    );
    const size = words ? words.height / unit : 0;
    return {
      d: parts.join(""),
      fill,
      words: words && {
        lines: words.text.split("\n"),
        x: (words.at.x - anchor.x) / unit,
        y: (anchor.y - words.at.y) / unit,
        size,
        anchor: words.endsThere ? "end" : "start",
      },
    };
  }, [shape, unit]);
  const isInked = fill === "highlight";
  const [least, most] = p.picture ? reachOf(shape) : [];
  const anchor = anchorOf(shape);
  return (
    <g
      transform={`translate(${p.x} ${p.y})`}
      className={p.className}
      opacity={p.isFaint ? 0.45 : 1}
      style={isInked ? { mixBlendMode: "multiply" } : undefined}
    >
      {p.picture && least && most && (
        <image
          href={p.picture}
          x={(least.x - anchor.x) / unit}
          y={(anchor.y - most.y) / unit}
          width={(most.x - least.x) / unit}
          height={(most.y - least.y) / unit}
          preserveAspectRatio="none"
        />
      )}
      {d !== "" && (
        <path
          d={d}
          fill={fill === "none" || (fill === "tint" && !pen.isTinted) ? "none" : "currentColor"}
          fillOpacity={isInked ? 0.28 : 0.06}
          strokeWidth={isInked ? (p.isPicked ? 3 : 0) : breadthOf(pen) + (p.isPicked ? 1.1 : 0)}
          strokeLinecap="round"
          strokeLinejoin="round"
          strokeDasharray={dashesOf(pen, p.isCarried === true).join(" ") || undefined}
        />
      )}
      {words?.lines.map((line, i) => (
        <text
          key={i}
          x={words.x}
          y={words.y + (i * LEADING + FIRST) * words.size}
          textAnchor={words.anchor as "end" | "start"}
          fontSize={words.size / CAPITALS}
          className={`mark-words ${p.isPicked ? "underline" : ""}`}
        >
          {line}
        </text>
      ))}
      {value && (
        <text y={-5} textAnchor="middle" fontSize={VALUE} className="mark-words font-medium">
          {value}
        </text>
      )}
    </g>
  );
});
