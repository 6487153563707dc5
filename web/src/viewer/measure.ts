import { isSheet, type Leaf, type Point, type Shape } from "../api/types";
import { scaleAt } from "./scale/scale";
import { lengthOf } from "./shapes/dimension";

/** Digits of a length in millimetres: as many as drawings state, fewer the longer it is. */
const digitsOf = (millimetres: number) => (millimetres < 10 ? 3 : millimetres < 100 ? 2 : millimetres < 10_000 ? 1 : 0);

const plain = (value: number, digits: number) => {
  const text = value.toFixed(digits);
  return text.includes(".") ? text.replace(/\.?0+$/, "") : text;
};

const short: Readonly<Record<string, string>> = {
  ...{ millimetre: "mm", centimetre: "cm", metre: "m", inch: "in", foot: "ft" },
};

/**
 * A length off a sheet in words.
 * @param length in the sheet's units
 * @param factor true millimetres in such a unit; null where the scale is not known and the length is told as it is on paper
 * @param unit the sheet's
 */
export function lengthWords(length: number, factor: number | null, unit: string): string {
  if (factor !== null) return `${plain(length * factor, digitsOf(length * factor))} mm`;
  return short[unit] ? `${plain(length, digitsOf(length))} ${short[unit]} on paper` : `${plain(length, 3)} units`;
}

/** How far two scales may differ and be called the same: what is written and read again. */
const SAME = 1e-9;

/** What a kept dimension says: its length by the scale that holds now; and, when that is another than it was measured by, what it said then. */
export function dimensionWords(
  { length, factor, wanted }: { length: number; factor: number | null; wanted: string },
  now: number | null,
  unit: string,
): string {
  const value = lengthWords(length, now, unit);
  const isOther = factor === null || now === null ? factor !== now : Math.abs(now / factor - 1) > SAME;
  return [value, isOther ? `(was ${lengthWords(length, factor, unit)})` : "", wanted && `→ ${wanted}`]
    .filter((w) => w !== "")
    .join(" ");
}

/** What shapes on a leaf say besides their own words, by the leaf's scales as they are now. */
export const valueOn =
  (leaf: Leaf | undefined) =>
  (shape: Shape): string | null =>
    shape.shape === "dimension"
      ? dimensionWords(
          { length: lengthOf(shape), factor: shape.factor ?? null, wanted: shape.wanted },
          factorAt(leaf, shape.from),
          isSheet(leaf) ? leaf.frame.unit : "unknown",
        )
      : null;

/** True millimetres in a unit of a sheet at a place; null where its scale is not known. */
export const factorAt = (leaf: Leaf | undefined, p: Point) => scaleAt(leaf?.scales ?? [], p)?.millimetres ?? null;
