import { offsetPoint, windowPoint, type OffsetPoint, type WindowPoint } from "./points";

/** Where the eye is: the point (from the origin of what is drawn, y up) in the middle of the window, and CSS pixels per sheet unit. */
export type View = { x: number; y: number; scale: number };
/** Of the window, in CSS pixels. */
export type Size = { width: number; height: number };
/** From the origin of what is drawn. */
export type Box = { left: number; bottom: number; right: number; top: number };

/** Room at the left of the window that the tools take, in CSS pixels. */
const TOOLS = 52;

/** The view that shows a whole box with a margin, beside the tools. */
export function fit(box: Box, width: number, height: number): View {
  const w = Math.max(box.right - box.left, 1e-9);
  const h = Math.max(box.top - box.bottom, 1e-9);
  const scale = Math.min((width - TOOLS - 32) / w, (height - 32) / h);
  return { x: (box.left + box.right) / 2 - TOOLS / 2 / scale, y: (box.bottom + box.top) / 2, scale };
}

/** The view after zooming by a factor with what lies under a place in the window held still. */
export function zoomAt(view: View, factor: number, spot: WindowPoint, size: Size): View {
  const at = toOffset(view, spot, size);
  const scale = view.scale * factor;
  return { scale, x: at.x - (spot.x - size.width / 2) / scale, y: at.y + (spot.y - size.height / 2) / scale };
}

/** The view after two fingers went from two places to two others: between them the sheet goes along, and grows as they part. */
export function pinched(
  view: View,
  from: readonly [WindowPoint, WindowPoint],
  to: readonly [WindowPoint, WindowPoint],
  size: Size,
): View {
  const middle = ([a, b]: typeof from) => windowPoint((a.x + b.x) / 2, (a.y + b.y) / 2);
  const apart = ([a, b]: typeof from) => Math.max(1, Math.hypot(b.x - a.x, b.y - a.y));
  const [was, now] = [middle(from), middle(to)];
  const moved = {
    ...view,
    x: view.x - (now.x - was.x) / view.scale,
    y: view.y + (now.y - was.y) / view.scale,
  };
  return zoomAt(moved, apart(to) / apart(from), now, size);
}

/** What lies under a place in the window. */
export const toOffset = (view: View, at: WindowPoint, { width, height }: Size): OffsetPoint =>
  offsetPoint(view.x + (at.x - width / 2) / view.scale, view.y - (at.y - height / 2) / view.scale);

/** Where in the window a place on the sheet lies. */
export const toWindow = (view: View, at: OffsetPoint, { width, height }: Size): WindowPoint =>
  windowPoint((at.x - view.x) * view.scale + width / 2, (view.y - at.y) * view.scale + height / 2);
