/** Where the eye is: the sheet point (offset from the origin, y up) in the middle of the window, and CSS pixels per sheet unit. */
export type View = { x: number; y: number; scale: number };
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

/** The view after zooming by a factor with the point under (px, py), in CSS pixels from the window's corner, held still. */
export function zoomAt(view: View, factor: number, px: number, py: number, width: number, height: number): View {
  const at = toSheet(view, px, py, width, height);
  const scale = view.scale * factor;
  return { scale, x: at.x - (px - width / 2) / scale, y: at.y + (py - height / 2) / scale };
}

/** A place in the window, in CSS pixels from its corner. */
export type Spot = { x: number; y: number };

/** The view after two fingers went from two places to two others: between them the sheet goes along, and grows as they part. */
export function pinched(
  view: View,
  from: readonly [Spot, Spot],
  to: readonly [Spot, Spot],
  width: number,
  height: number,
): View {
  const middle = ([a, b]: readonly [Spot, Spot]) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
  const apart = ([a, b]: readonly [Spot, Spot]) => Math.max(1, Math.hypot(b.x - a.x, b.y - a.y));
  const [was, now] = [middle(from), middle(to)];
  const moved = {
    ...view,
    x: view.x - (now.x - was.x) / view.scale,
    y: view.y + (now.y - was.y) / view.scale,
  };
  return zoomAt(moved, apart(to) / apart(from), now.x, now.y, width, height);
}

export function toSheet(view: View, px: number, py: number, width: number, height: number) {
  return { x: view.x + (px - width / 2) / view.scale, y: view.y - (py - height / 2) / view.scale };
}

export function toWindow(view: View, x: number, y: number, width: number, height: number) {
  return { x: (x - view.x) * view.scale + width / 2, y: (view.y - y) * view.scale + height / 2 };
}
