import type { Point } from "../api/types";
import { fit, type Box, type Size, type View } from "./camera/view";
import { fromOrigin } from "./camera/points";

/** Where each sheet was left, as long as the page is open; from the sheet's own origin. */
const left = new Map<string, View>();

/** What is looked at: a box counted from the origin of what is drawn, in a window. */
type Look = { box: Box; origin: readonly [number, number]; size: Size };

export function leave(draft: string, position: number, view: View, [x, y]: Look["origin"]) {
  left.set(`${draft}/${position}`, { ...view, x: view.x + x, y: view.y + y });
}

/** The view that shows some places of a sheet, with a tenth of it around them. */
export function viewAround(places: readonly Point[], { box, origin, size }: Look): View {
  const all = places.map((p) => fromOrigin(p, origin));
  const [xs, ys] = [all.map((p) => p.x), all.map((p) => p.y)];
  const grow = Math.max(box.right - box.left, box.top - box.bottom) * 0.1;
  return fit(
    {
      left: Math.min(...xs) - grow,
      right: Math.max(...xs) + grow,
      bottom: Math.min(...ys) - grow,
      top: Math.max(...ys) + grow,
    },
    size.width,
    size.height,
  );
}

/** How a sheet is looked at when it comes: as it was left, or all of it. */
export function firstView(draft: string, position: number, { box, origin, size }: Look): View {
  const was = left.get(`${draft}/${position}`);
  return was ? { ...was, x: was.x - origin[0], y: was.y - origin[1] } : fit(box, size.width, size.height);
}

/** A box of the sheet's own coordinates, counted from the origin of what is drawn. */
export const boxFrom = ([x0, y0, x1, y1]: readonly [number, number, number, number], [x, y]: Look["origin"]): Box => ({
  left: x0 - x,
  bottom: y0 - y,
  right: x1 - x,
  top: y1 - y,
});
