import type { Hand } from "../sheet";
import type { ViewPlane } from "./onView";

/** Takes the hand's presses while something is drawn on a view: the model stands still beneath. */
export function DrawOnView({ hand, plane }: { hand: Hand; plane: ViewPlane }) {
  const at = (e: React.PointerEvent) => {
    const box = e.currentTarget.getBoundingClientRect();
    return {
      at: plane.pointAt(e.clientX - box.left, e.clientY - box.top),
      unit: plane.unit,
      isFree: e.altKey,
      isAdding: e.shiftKey,
    };
  };
  return (
    <div
      data-on-sheet
      data-testid="view-drawing"
      className="absolute inset-0 z-10 cursor-crosshair touch-none"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        hand.press(at(e));
      }}
      onPointerMove={(e) => (e.currentTarget.hasPointerCapture(e.pointerId) ? hand.drag(at(e)) : hand.glide(at(e)))}
      onPointerUp={(e) => e.currentTarget.hasPointerCapture(e.pointerId) && hand.release(at(e))}
      onPointerCancel={() => hand.cancel()}
    />
  );
}
