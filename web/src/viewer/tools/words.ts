import { LEAST, type Tool } from "./tool";

/** How high letters are when they are written, in CSS pixels. */
export const LETTERS = 11;

/** Words where the hand is pressed, or where the cross stands. */
export const words: Tool = (_, event) =>
  event.does === "release" || event.does === "place"
    ? { state: null, writes: { shape: "words", at: event.at, text: "", height: LETTERS * event.unit } }
    : event.does === "press"
      ? { state: { tool: "twoPoint", from: event.at } }
      : { state: null };

/** From what it points at to where its words stand. */
export const leader: Tool = (held, event) => {
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
      return { state: null, writes: { shape: "leader", from: at, to: tip, text: "", height: LETTERS * unit } };
    }
    default:
      return { state: null };
  }
};
