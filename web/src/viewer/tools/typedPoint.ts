import type { Point } from "../../api/types";

/** From where a point is typed. */
export type TypedFrom = {
  /** The point that was set last; null where there is none. */
  last: Point | null;
  /** Where the hand or the cross is: a length alone goes that way. */
  towards: Point | null;
  /** What coordinates are counted from. */
  origin: Point;
  /** True millimetres in a unit of the sheet; null where its scale is not known, and its own units are typed. */
  factor: number | null;
};

const NUMBER = String.raw`([+-]?\d+(?:[.,]\d+)?|[+-]?[.,]\d+)`;
const pair = new RegExp(`^(@?) *${NUMBER} *(?:;| ) *${NUMBER}$`);
const polar = new RegExp(`^@? *${NUMBER} *(?:< *${NUMBER})?$`);
const number = (text: string) => Number(text.replace(",", "."));

/**
 * A point by numbers: “12.5 40” from the origin, “@10 -5” from the last point, “25<30” a length at an angle from it, counterclockwise
 * from the right, “25” a length from it towards the hand. With a comma or a point, parted by a blank or a semicolon.
 * @returns the point on the sheet; null for what says none
 */
export function typedPoint(typed: string, { last, towards, origin, factor }: TypedFrom): Point | null {
  const text = typed.trim();
  const k = factor === null ? 1 : 1 / factor;
  const two = pair.exec(text);
  if (two) {
    const from = two[1] === "@" ? last : origin;
    return from && { x: from.x + number(two[2]!) * k, y: from.y + number(two[3]!) * k };
  }
  const one = polar.exec(text);
  if (!one || !last) return null;
  const length = number(one[1]!) * k;
  if (one[2] !== undefined) {
    const angle = (number(one[2]) * Math.PI) / 180;
    return { x: last.x + length * Math.cos(angle), y: last.y + length * Math.sin(angle) };
  }
  const far = towards ? Math.hypot(towards.x - last.x, towards.y - last.y) : 0;
  if (!towards || far === 0) return null;
  return { x: last.x + ((towards.x - last.x) / far) * length, y: last.y + ((towards.y - last.y) / far) * length };
}
