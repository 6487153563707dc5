import { memo, useMemo } from "react";
import type { Shape } from "../api/types";
import { anchorOf, outlineOf } from "./shapes";

type Props = {
  shape: Shape;
  /** Sheet units per CSS pixel. */
  unit: number;
  /** Where the point that it is about lies in the window. */
  x: number;
  y: number;
  className: string;
  isPicked?: boolean;
  isCarried?: boolean;
  isFaint?: boolean;
};

/** A markup as lines in the window. While the sheet only moves, so do they; they are made anew when it is zoomed. */
export const MarkPath = memo(function MarkPath(p: Props) {
  const { shape, unit } = p;
  const { d, fills } = useMemo(() => {
    const { lines, fills } = outlineOf(shape, unit);
    const anchor = anchorOf(shape);
    const words = lines.map((line) =>
      line
        .map(
          (at, i) =>
            `${i === 0 ? "M" : "L"}${((at.x - anchor.x) / unit).toFixed(2)} ${((anchor.y - at.y) / unit).toFixed(2)}`,
        )
        .join(""),
    );
    return { d: words.join(""), fills };
  }, [shape, unit]);
  return (
    <path
      d={d}
      transform={`translate(${p.x} ${p.y})`}
      className={p.className}
      fill={fills ? "currentColor" : "none"}
      fillOpacity={0.06}
      strokeWidth={p.isPicked ? 3 : 1.9}
      strokeLinecap="round"
      strokeLinejoin="round"
      strokeDasharray={p.isCarried ? "5 3" : undefined}
      opacity={p.isFaint ? 0.45 : 1}
    />
  );
});
