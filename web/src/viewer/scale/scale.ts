import type { Leaf, Point } from "../../api/types";

export type Scale = Leaf["scales"][number];

/** Two points of a sheet whose distance is to be said. */
export type Measured = { from: Point; to: Point };

/** The scale that holds at a place: the first whose area has it, for the smallest area comes first. */
export function scaleAt(scales: readonly Scale[], p: Point): Scale | null {
  return (
    scales.find(
      ({ area }) => !area || (p.x >= area.minX && p.x <= area.maxX && p.y >= area.minY && p.y <= area.maxY),
    ) ?? null
  );
}

/** Most scales that are named one by one. */
const MOST = 3;

/** The scales of a sheet in few words, the one of the largest area first. */
export function scaleWords(scales: readonly Scale[], unit: string): string {
  const words = [...new Set([...scales].reverse().map((s) => s.words))];
  if (words.length === 0) return unit === "unknown" ? "Size not known" : "Scale not known";
  if (words.length > MOST) return `${words.length} scales`;
  return words[0]!.startsWith("1 unit") ? words[0]! : `Scale ${words.join(", ")}`;
}

/** A length as people type it, with a comma or a point; null for what is none. */
export function lengthOf(typed: string): number | null {
  const plain = typed.trim().replace(",", ".");
  const length = /^\d*\.?\d+$|^\d+\.$/.test(plain) ? Number(plain) : NaN;
  return length > 0 && Number.isFinite(length) ? length : null;
}
