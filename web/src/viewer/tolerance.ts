import { limitsOf } from "./fit";

/** A length that is asked for with what it may differ by, in millimetres; null for no bound. */
export type Tolerance = { least: number | null; most: number | null };

const NUMBER = String.raw`([0-9]+(?:\.[0-9]+)?) ?(?:mm)?`;
const SIGN = String.raw`[ØR⌀]? ?`;
const even = new RegExp(String.raw`^${SIGN}${NUMBER} ?(?:±|\+/-) ?([0-9]*\.?[0-9]+) ?(?:mm)?$`);
const part = String.raw`([+-] ?[0-9]*\.?[0-9]+|0)`;
const uneven = new RegExp(String.raw`^${SIGN}${NUMBER} ?${part} ?[/ ] ?${part} ?(?:mm)?$`);
const boundBefore = new RegExp(String.raw`^(max\.?|min\.?|≤|≥) ?${SIGN}${NUMBER}$`, "i");
const boundBehind = new RegExp(String.raw`^${SIGN}${NUMBER} ?(max\.?|min\.?)$`, "i");

const fitted = new RegExp(String.raw`^${SIGN}${NUMBER} ?(JS|js|[D-HKMNPd-hkmnp]) ?([0-9]{1,2})$`);

const number = (text: string) => Number(text.replaceAll(" ", ""));
const bound = (word: string, value: number): Tolerance =>
  /^(ma|≤)/i.test(word) ? { least: null, most: value } : { least: value, most: null };

/** Reads “40 ±0.1”, “Ø 40 +0.2/-0.1”, “max 40”, “≥ 40”, “Ø 40 H7” and the like; null for what states no bounds. The server reads the same. */
export function toleranceOf(text: string): Tolerance | null {
  const plain = text.trim().replaceAll(",", ".").replaceAll("−", "-").replaceAll("–", "-");
  const both = even.exec(plain);
  if (both) return { least: number(both[1]!) - number(both[2]!), most: number(both[1]!) + number(both[2]!) };
  const two = uneven.exec(plain);
  if (two) {
    const [nominal, a, b] = [number(two[1]!), number(two[2]!), number(two[3]!)];
    return { least: nominal + Math.min(a, b), most: nominal + Math.max(a, b) };
  }
  const before = boundBefore.exec(plain);
  if (before) return bound(before[1]!, number(before[2]!));
  const behind = boundBehind.exec(plain);
  if (behind) return bound(behind[2]!, number(behind[1]!));
  const fit = fitted.exec(plain);
  const limits = fit && limitsOf(number(fit[1]!), fit[2]!, Number(fit[3]!));
  return limits && { least: number(fit[1]!) + limits.lower, most: number(fit[1]!) + limits.upper };
}

/** Words that a length with bounds takes at most, and characters. */
const MOST_WORDS = 5;
const LONGEST_STATED = 40;
const around = /^[()“”".,;:!?]+|[()“”".,;:!?]+$/g;

/** The first length with bounds that stands in a text, as it stands there; null where there is none. */
export function statedIn(text: string): string | null {
  const words = text.split(/[ \n\t\r]+/).filter((word) => word !== "");
  for (let first = 0; first < words.length; first++)
    for (let count = Math.min(MOST_WORDS, words.length - first); count > 0; count--) {
      const part = words
        .slice(first, first + count)
        .join(" ")
        .replace(around, "");
      if (part.length <= LONGEST_STATED && toleranceOf(part)) return part;
    }
  return null;
}

/** What numbers lose on their way, in millimetres: not what lies on a bound. */
const SLACK = 1e-6;

/** That a length lies inside, or by how much it does not. */
export function verdictOn({ least, most }: Tolerance, millimetres: number): string {
  const off = (by: number) => by.toFixed(3).replace(/\.?0+$/, "");
  if (most !== null && millimetres > most + SLACK) return `${off(millimetres - most)} over`;
  if (least !== null && millimetres < least - SLACK) return `${off(least - millimetres)} under`;
  return "inside";
}
