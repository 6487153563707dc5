import { memo, useMemo, useRef } from "react";
import type { Point, Shape } from "../api/types";
import { outlineOf } from "./shapes";
import type { Place } from "./sheet";

/** Markups that look alike: drawn as one line, for thousands of them are no more to the page than one. */
export type Alike = {
  key: string;
  className: string;
  fill: "none" | "tint" | "highlight";
  isCarried: boolean;
  isFaint: boolean;
  shapes: readonly Shape[];
};

/** Between these, what was made at another zoom is only drawn larger or smaller. */
const STRETCH = 2;

/** Lines of shapes from a point on, y down, in CSS pixels at a zoom. */
function pathOf(shapes: readonly Shape[], from: Point, unit: number): string {
  const parts: string[] = [];
  for (const shape of shapes)
    for (const line of outlineOf(shape, unit).lines)
      for (let i = 0; i < line.length; i++) {
        const at = line[i]!;
        parts.push(
          `${i === 0 ? "M" : "L"}${((at.x - from.x) / unit).toFixed(1)} ${((from.y - at.y) / unit).toFixed(1)}`,
        );
      }
  return parts.join("");
}

/** Markups that look alike, as one line in the window. */
export const MarkBatch = memo(function MarkBatch({ alike, place, unit }: { alike: Alike; place: Place; unit: number }) {
  const from = useMemo((): Point => outlineOf(alike.shapes[0]!, 1).lines[0]?.[0] ?? { x: 0, y: 0 }, [alike]);
  const made = useRef({ alike, unit });
  if (made.current.alike !== alike || unit > made.current.unit * STRETCH || unit < made.current.unit / STRETCH)
    made.current = { alike, unit };
  const zoom = made.current.unit;
  const d = useMemo(() => pathOf(alike.shapes, from, zoom), [alike, from, zoom]);
  const at = place(from);
  const isInked = alike.fill === "highlight";
  return (
    <g
      transform={`translate(${at.x} ${at.y}) scale(${zoom / unit})`}
      className={alike.className}
      opacity={alike.isFaint ? 0.45 : 1}
      style={isInked ? { mixBlendMode: "multiply" } : undefined}
      data-count={alike.shapes.length}
    >
      <path
        d={d}
        vectorEffect="non-scaling-stroke"
        fill={alike.fill === "none" ? "none" : "currentColor"}
        fillOpacity={isInked ? 0.28 : 0.06}
        strokeWidth={isInked ? 0 : 1.9}
        strokeLinecap="round"
        strokeLinejoin="round"
        strokeDasharray={alike.isCarried ? "5 3" : undefined}
      />
    </g>
  );
});
