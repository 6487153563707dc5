import { isSheet, type Leaf, type Point, type Shape } from "../api/types";
import { scaleAt } from "./scale/scale";
import { lengthOf } from "./shapes/dimension";
import { alongOf, turnOf } from "./shapes/measures";
import { aroundOf, twiceArea } from "./shapes/path";
import { statedIn, toleranceOf, verdictOn } from "./tolerance";

/** Digits of a length in millimetres: as many as drawings state, fewer the longer it is. */
const digitsOf = (millimetres: number) => (millimetres < 10 ? 3 : millimetres < 100 ? 2 : millimetres < 10_000 ? 1 : 0);

const plain = (value: number, digits: number) => {
  const text = value.toFixed(digits);
  return text.includes(".") ? text.replace(/\.?0+$/, "") : text;
};

const short: Readonly<Record<string, string>> = {
  ...{ millimetre: "mm", centimetre: "cm", metre: "m", inch: "in", foot: "ft" },
};

/** What lengths can be told in besides millimetres, and how many of those it has. */
export const secondUnits = { metre: 1000, inch: 25.4, foot: 304.8 } as const;
export type SecondUnit = keyof typeof secondUnits;

/** The same length in another unit, to as many figures. */
function secondWords(millimetres: number, second: SecondUnit | null): string {
  if (second === null) return "";
  const value = millimetres / secondUnits[second];
  const digits = Math.max(0, 4 - Math.floor(Math.log10(Math.max(1, Math.abs(value)))));
  return ` (${plain(value, digits)} ${short[second]})`;
}

/** Digits behind the point of the first figure of a number: none from 1 on. */
const firstDigit = (small: number) => (small >= 1 ? 0 : small >= 0.1 ? 1 : small >= 0.01 ? 2 : 3);

/**
 * A length off a sheet in words: no more exactly than what it lies on is, with how far it may be off.
 * @param length in the sheet's units
 * @param factor true millimetres in such a unit; null where the scale is not known and the length is told as it is on paper
 * @param unit the sheet's
 * @param second what a known length is told in as well
 * @param off how far it may be off, in the sheet's units; null where its coordinates are true
 */
export function lengthWords(
  length: number,
  factor: number | null,
  unit: string,
  second: SecondUnit | null = null,
  off: number | null = null,
): string {
  const [value, by] = [length * (factor ?? 1), off === null ? 0 : off * (factor ?? 1)];
  let digits = !short[unit] && factor === null ? 3 : digitsOf(Math.abs(value));
  let about = "";
  // What is stated more exactly than it is rounded to needs no word.
  if (by > 0 && firstDigit(by) <= digits) {
    digits = firstDigit(by);
    about = ` ±${plain(Math.max(by, 10 ** -digits), digits)}`;
  }
  const words = plain(value, digits);
  if (factor !== null) return `${words} mm${about}${secondWords(value, second)}`;
  return short[unit] ? `${words} ${short[unit]}${about} on paper` : `${words} units${about}`;
}

/** An area off a sheet in words, as lengths are told; above a square metre in those. */
export function areaWords(size: number, factor: number | null, unit: string): string {
  if (factor !== null) {
    const square = size * factor * factor;
    return square < 1e6 ? `${plain(square, square < 100 ? 2 : 0)} mm²` : `${plain(square / 1e6, 3)} m²`;
  }
  return short[unit] ? `${plain(size, 1)} ${short[unit]}² on paper` : `${plain(size, 3)} square units`;
}

/** How far two scales may differ and be called the same: what is written and read again. */
const SAME = 1e-9;
const isSame = (a: number | null, b: number | null) =>
  a === null || b === null ? a === b : Math.abs(b / a - 1) <= SAME;

/** What a kept dimension says: its length by the scale that holds now; and, when that is another than it was measured by, what it said then. */
export function dimensionWords(
  { length, factor, wanted }: { length: number; factor: number | null; wanted: string },
  now: number | null,
  unit: string,
  second: SecondUnit | null = null,
  off: number | null = null,
): string {
  const value = lengthWords(length, now, unit, second, off);
  const was = isSame(factor, now) ? "" : `(was ${lengthWords(length, factor, unit, null, off)})`;
  const bounds = now === null ? null : toleranceOf(wanted);
  const checked = bounds ? `: ${verdictOn(bounds, length * now!)}` : "";
  return [value, was, wanted && `→ ${wanted}${checked}`].filter((w) => w !== "").join(" ");
}

/** What a kept measure says: by the scale that holds now, and when that is another than it was measured by, what it said then. */
const anew = (words: (factor: number | null) => string, factor: number | null, now: number | null) =>
  isSame(factor, now) ? words(now) : `${words(now)} (was ${words(factor)})`;

/** What shapes on a leaf say besides their own words, by the leaf's scales as they are now, and by what the note says whose place they are. */
export const valueOn =
  (leaf: Leaf | undefined, second: SecondUnit | null = null) =>
  (shape: Shape, note = ""): string | null => {
    const unit = isSheet(leaf) ? leaf.frame.unit : "unknown";
    const fineness = (isSheet(leaf) && leaf.frame.fineness) || null;
    const length = (value: number, factor: number | null, share = 1) =>
      lengthWords(value, factor, unit, second, fineness === null ? null : fineness * share);
    switch (shape.shape) {
      case "dimension":
        return dimensionWords(
          { length: lengthOf(shape), factor: shape.factor ?? null, wanted: shape.wanted || (statedIn(note) ?? "") },
          factorAt(leaf, shape.from),
          unit,
          second,
          fineness,
        );
      case "area": {
        const of = (factor: number | null) =>
          `${areaWords(Math.abs(twiceArea(shape.points)) / 2, factor, unit)}, around ${lengthWords(aroundOf(shape.points), factor, unit, second)}`;
        return anew(of, shape.factor ?? null, factorAt(leaf, shape.points[0]!));
      }
      case "radius": {
        const of = (factor: number | null) =>
          `R ${length(lengthOf(shape), factor)}, Ø ${length(2 * lengthOf(shape), factor, 2)}`;
        return anew(of, shape.factor ?? null, factorAt(leaf, shape.from));
      }
      case "pathLength": {
        const of = (factor: number | null) => `${length(alongOf(shape.points), factor, shape.points.length - 1)} along`;
        return anew(of, shape.factor ?? null, factorAt(leaf, shape.points[0]!));
      }
      case "coordinate": {
        const { at, origin } = shape;
        const of = (factor: number | null) =>
          `x ${length(at.x - origin.x, factor).split(" ")[0]}, y ${length(at.y - origin.y, factor)}`;
        return anew(of, shape.factor ?? null, factorAt(leaf, at));
      }
      case "angle":
        return `${plain((Math.abs(turnOf(shape)) * 180) / Math.PI, 2)}°`;
      default:
        return null;
    }
  };

/** True millimetres in a unit of a sheet at a place; null where its scale is not known. */
export const factorAt = (leaf: Leaf | undefined, p: Point) => scaleAt(leaf?.scales ?? [], p)?.millimetres ?? null;
