import type { Point, Shape } from "../../api/types";
import { withTied } from "../markup/ties";
import { distanceTo, handlesOf, hasSize, moved, reachOf, reshaped, sameShape } from "../shapes";
import { LEAST, type At, type Seen, type Tool } from "./tool";

/** How near a markup's line the hand must come, in CSS pixels, and a handle. */
const NEAR = 7;
const NEAR_HANDLE = 9;

/** The markup that the hand is on: the topmost of those near enough. */
export function markAt({ marks }: Seen, { at, unit }: At): string | null {
  for (const mark of [...marks].reverse()) if (distanceTo(mark.shape, at, unit) <= NEAR * unit) return mark.id;
  return null;
}

function handleAt(shape: Shape, { at, unit }: At): number | null {
  const found = handlesOf(shape).findIndex((h) => Math.hypot(h.x - at.x, h.y - at.y) <= NEAR_HANDLE * unit);
  return found < 0 ? null : found;
}

/** Those that lie wholly within a box. */
function within({ marks }: Seen, a: Point, b: Point): string[] {
  const [left, right] = [Math.min(a.x, b.x), Math.max(a.x, b.x)];
  const [bottom, top] = [Math.min(a.y, b.y), Math.max(a.y, b.y)];
  return marks
    .filter(({ shape }) => reachOf(shape).every((p) => p.x >= left && p.x <= right && p.y >= bottom && p.y <= top))
    .map((m) => m.id);
}

/**
 * Picks markups, and moves and reshapes those that are one's own to change. With Shift another is picked as well, or all within a box. Where there is none, the
 * hand moves the sheet.
 */
export const look: Tool = (held, event, seen) => {
  if (held?.tool === "picking") {
    if (event.does === "drag") return { state: held, box: { from: held.from, to: event.at } };
    return event.does === "release" ? { state: null, picksAll: within(seen, held.from, event.at) } : { state: null };
  }
  const state = held?.tool === "look" ? held : null;
  const all = seen.picked === null ? [] : [seen.picked, ...(seen.others ?? [])];
  if (event.does === "press") {
    if (event.isAdding) {
      const id = markAt(seen, event);
      return id === null ? { state: { tool: "picking", from: event.at } } : { state: null, toggles: id };
    }
    const picked = seen.marks.find((m) => m.id === seen.picked);
    // Of several no corner is taken: they are moved together.
    const handle = picked?.mayChange && all.length === 1 ? handleAt(picked.shape, event) : null;
    const id = handle === null ? markAt(seen, event) : picked!.id;
    if (id === null) return { state: null, picks: null };
    const mark = seen.marks.find((m) => m.id === id)!;
    const isOfSeveral = all.length > 1 && all.includes(id);
    if (!mark.mayChange) return { state: null, picks: id };
    const together = isOfSeveral ? all : handle === null ? withTied([id], seen.marks) : [];
    const along = seen.marks.filter((m) => m.id !== id && m.mayChange && together.includes(m.id));
    return {
      state: { tool: "look", id, shape: mark.shape, along, from: event.at, handle, isMoving: false },
      // One of several stays one of them until it is seen whether they are moved.
      picks: isOfSeveral ? undefined : id,
    };
  }
  if (!state || (event.does !== "drag" && event.does !== "release")) return { state: null };
  const { id, shape, from, handle } = state;
  const to = event.at;
  const isMoving = state.isMoving || Math.hypot(to.x - from.x, to.y - from.y) > (LEAST / 2) * event.unit;
  const now = handle === null ? moved(shape, to.x - from.x, to.y - from.y) : reshaped(shape, handle, to);
  const along = state.along.map((m) => ({ id: m.id, shape: moved(m.shape, to.x - from.x, to.y - from.y) }));
  if (event.does === "drag")
    return isMoving
      ? { state: { ...state, isMoving }, preview: { id, shape: now }, along }
      : { state: { ...state, isMoving } };
  if (!isMoving) return state.along.length > 0 ? { state: null, picks: id } : { state: null };
  return {
    state: null,
    changed: hasSize(now) && !sameShape(now, shape) ? [{ id, shape: now }, ...along] : undefined,
  };
};
