import type { Shape } from "../../api/types";
import { distanceTo, handlesOf, hasSize, moved, reshaped, sameShape } from "../shapes";
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

/** Picks markups, and moves and reshapes those that are one's own to change. Where there is none, the hand moves the sheet. */
export const look: Tool = (held, event, seen) => {
  const state = held?.tool === "look" ? held : null;
  if (event.does === "press") {
    const picked = seen.marks.find((m) => m.id === seen.picked);
    const handle = picked?.mayChange ? handleAt(picked.shape, event) : null;
    const id = handle === null ? markAt(seen, event) : picked!.id;
    if (id === null) return { state: null, picks: null };
    const mark = seen.marks.find((m) => m.id === id)!;
    if (!mark.mayChange) return { state: null, picks: id };
    return { state: { tool: "look", id, shape: mark.shape, from: event.at, handle, isMoving: false }, picks: id };
  }
  if (
    !state ||
    event.does === "cancel" ||
    event.does === "place" ||
    event.does === "hover" ||
    event.does === "end" ||
    event.does === "back"
  )
    return { state: null };
  const { shape, from, handle } = state;
  const to = event.at;
  const isMoving = state.isMoving || Math.hypot(to.x - from.x, to.y - from.y) > (LEAST / 2) * event.unit;
  const now = handle === null ? moved(shape, to.x - from.x, to.y - from.y) : reshaped(shape, handle, to);
  if (event.does === "drag")
    return { state: { ...state, isMoving }, preview: isMoving ? { id: state.id, shape: now } : undefined };
  return {
    state: null,
    changed: isMoving && hasSize(now) && !sameShape(now, shape) ? { id: state.id, shape: now } : undefined,
  };
};
