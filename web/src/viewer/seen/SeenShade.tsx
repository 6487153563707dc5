import { useMemo } from "react";
import type { SeenSheet, SheetLeaf } from "../../api/types";
import type { Place } from "../sheet";
import { unseenPath } from "./patches";

type Props = { seen: SeenSheet; frame: SheetLeaf["frame"]; place: Place };

/** What one has not yet had before one at a legible size, shaded. */
export function SeenShade({ seen, frame, place }: Props) {
  const { minX, minY, maxX, maxY } = frame.extents;
  const side = Math.max(maxX - minX, maxY - minY) / Math.max(seen.columns, seen.rows);
  const path = useMemo(
    () => unseenPath(seen.columns, seen.rows, seen.patches, (maxX - minX) / side, (maxY - minY) / side),
    [seen, minX, minY, maxX, maxY, side],
  );
  const from = place({ x: minX, y: maxY });
  const scale = place({ x: minX + side, y: maxY }).x - from.x;
  return (
    <svg aria-hidden data-testid="unseen" className="pointer-events-none absolute inset-0 h-full w-full">
      <path
        d={path}
        transform={`translate(${from.x} ${from.y}) scale(${scale})`}
        className="fill-ink"
        fillOpacity={0.17}
      />
    </svg>
  );
}
