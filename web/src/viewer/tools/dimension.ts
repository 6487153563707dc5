import type { Point, Shape } from "../../api/types";
import { hasSize } from "../shapes";
import { offsetTo } from "../shapes/dimension";
import { LEAST, type Step, type Tool } from "./tool";
import { LETTERS } from "./words";

/** Measures between two points, and keeps it: one, the other, and where the line with the value stands. */
export const dimension: Tool = (held, event, seen) => {
  const state = held?.tool === "dimension" ? held : null;
  const points = state?.points ?? [];
  if (event.does === "cancel" || event.does === "end") return { state: null };
  if (event.does === "back")
    return points.length > 1
      ? { state: { tool: "dimension", points: points.slice(0, -1), pressed: null } }
      : { state: null };
  const { at, unit } = event;
  const isNear = (p: Point) => Math.hypot(p.x - at.x, p.y - at.y) <= LEAST * unit;
  const shape = (from: Point, to: Point, offset: number): Shape => ({
    ...{ shape: "dimension", from, to, offset },
    ...{ factor: seen.factorAt?.(from) ?? null, wanted: "", height: LETTERS * unit },
  });
  const going = (all: Point[], pressed: Point | null): Step => {
    const [from, to = at] = all as [Point, Point?];
    const now = shape(from, to, all.length > 1 ? offsetTo({ from, to }, at) : 0);
    return {
      state: { tool: "dimension", points: all, pressed },
      preview: hasSize(now) ? { id: null, shape: now } : undefined,
    };
  };
  switch (event.does) {
    case "press":
    case "place": {
      const [from, to] = points;
      if (from && to) {
        const drawn = shape(from, to, offsetTo({ from, to }, at));
        return { state: null, drawn };
      }
      return from && isNear(from) ? going(points, at) : going([...points, at], at);
    }
    case "drag":
    case "hover":
      return state ? going(points, state.pressed) : { state: null };
    case "release":
      if (!state) return { state: null };
      return going(state.pressed && !isNear(state.pressed) && points.length === 1 ? [...points, at] : points, null);
  }
};
