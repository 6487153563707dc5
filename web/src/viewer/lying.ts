import { offsetPoint } from "./camera/points";
import { toWindow, type Box, type Size, type View } from "./camera/view";

/** How a picture that fills a box lies in a window. */
export function lying(box: Box, view: View, size: Size) {
  const { x, y } = toWindow(view, offsetPoint(box.left, box.top), size);
  return {
    width: `${(box.right - box.left) * view.scale}px`,
    height: `${(box.top - box.bottom) * view.scale}px`,
    transform: `translate(${x}px, ${y}px)`,
  };
}

/** How the prepared picture of a sheet looks, whoever lays it. */
export const pictureLook =
  "absolute top-0 left-0 max-w-none origin-top-left bg-paper will-change-transform shadow-[0_1px_2px_#0003,0_6px_22px_#0002]";
