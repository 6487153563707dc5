import { between, hasSize, type BetweenName } from "../shapes";
import { LEAST, type Tool } from "./tool";

/** From the middle of a shape to its corner, in CSS pixels, when both corners are set at one place by key. */
const HALF = { x: 60, y: 36 };

/** Draws a shape from one point to another: pressed, dragged, let go; or by key, corner by corner. */
export const twoPoint =
  (name: BetweenName): Tool =>
  (held, event) => {
    const state = held?.tool === "twoPoint" ? held : null;
    switch (event.does) {
      case "press":
        return { state: { tool: "twoPoint", from: event.at } };
      case "drag":
        return state ? { state, preview: { id: null, shape: between(name, state.from, event.at) } } : { state: null };
      case "release": {
        if (!state) return { state: null };
        const shape = between(name, state.from, event.at);
        const far = Math.hypot(event.at.x - state.from.x, event.at.y - state.from.y) > LEAST * event.unit;
        return { state: null, drawn: far && hasSize(shape) ? shape : undefined };
      }
      case "hover":
        return state ? { state, preview: { id: null, shape: between(name, state.from, event.at) } } : { state: null };
      // By key: the first corner at the cross, then the second; at the same place twice, a shape of a usual size around it.
      case "place": {
        const { at, unit } = event;
        if (!state) return { state: { tool: "twoPoint", from: at } };
        const shape = between(name, state.from, at);
        const far = Math.hypot(at.x - state.from.x, at.y - state.from.y) > LEAST * unit;
        return {
          state: null,
          drawn:
            far && hasSize(shape)
              ? shape
              : between(
                  name,
                  { x: at.x - HALF.x * unit, y: at.y + HALF.y * unit },
                  { x: at.x + HALF.x * unit, y: at.y - HALF.y * unit },
                ),
        };
      }
      case "end":
      case "back":
      case "cancel":
        return { state: null };
    }
  };
