import { LEAST, lettersOf, type Seen, type Tool } from "./tool";

/** How broad a line of new words is at the most, in heights of letters. */
const BROADEST = 28;

/** Words where the hand is pressed, or where the cross stands. */
export const words: Tool = (_, event, seen) => {
  if (event.does === "press") return { state: { tool: "twoPoint", from: event.at } };
  if (event.does !== "release" && event.does !== "place") return { state: null };
  const height = lettersOf(seen) * event.unit;
  return { state: null, writes: { shape: "words", at: event.at, text: "", height, width: BROADEST * height } };
};

/** A stamp where the hand is pressed: its words are written, or chosen of those that were stamped before. */
export const stamp: Tool = (state, event, seen) => {
  const step = words(state, event, seen);
  if (step.writes?.shape !== "words") return step;
  const { at, text, height } = step.writes;
  return { ...step, writes: { shape: "stamp", at, text, height } };
};

/** How many are counted on a sheet by whoever draws: what comes next is one more than the last. */
export const countedOf = (marks: Seen["marks"]): { sum: number; last: number } => {
  const numbers = marks.flatMap((m) => (m.mayChange && m.shape.shape === "count" ? m.shape.number : []));
  return { sum: numbers.length, last: Math.max(0, ...numbers) };
};

/** Counts: a number at each press, until another tool is taken. */
export const count: Tool = (_, event, seen) => {
  if (event.does === "press") return { state: { tool: "twoPoint", from: event.at } };
  if (event.does !== "release" && event.does !== "place") return { state: null };
  const number = countedOf(seen.marks).last + 1;
  return { state: null, drawn: { shape: "count", at: event.at, number, height: lettersOf(seen) * event.unit } };
};

/** From what it points at to where its words stand. */
export const leader: Tool = (held, event, seen) => {
  const tip = held?.tool === "twoPoint" ? held.from : null;
  switch (event.does) {
    case "press":
      return { state: { tool: "twoPoint", from: tip ?? event.at } };
    case "drag":
    case "hover":
      return tip
        ? { state: held, preview: { id: null, shape: { shape: "arrow", from: event.at, to: tip } } }
        : { state: null };
    case "release":
    case "place": {
      const { at, unit } = event;
      const isFar = tip && Math.hypot(at.x - tip.x, at.y - tip.y) > LEAST * unit;
      // Pressed and let go of at one place: the words stand where it is pressed next.
      if (!isFar) return { state: { tool: "twoPoint", from: tip ?? at } };
      return { state: null, writes: { shape: "leader", from: at, to: tip, text: "", height: lettersOf(seen) * unit } };
    }
    default:
      return { state: null };
  }
};
