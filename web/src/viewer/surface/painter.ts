import type { View } from "../camera/view";

/** Draws a sheet onto a canvas. A picture is made for a view and then moved with the page until the next is there. */
export interface Painter {
  /**
   * Draws the picture of a view, `width` × `height` CSS pixels at `ratio` device pixels each.
   * Resolves true when all of it that lies in the window is on the canvas, false when another drawing took over; what lies beyond may
   * follow.
   * @param window the part in the middle of the picture that is to be seen, in CSS pixels
   * @param millimetre sheet units in a millimetre of paper, for line weights
   * @param onBegun called once the canvas shows that view, though not all of it may be drawn yet
   */
  draw(
    view: View,
    width: number,
    height: number,
    window: { width: number; height: number },
    ratio: number,
    millimetre: number,
    onBegun: () => void,
  ): Promise<boolean>;
  /** Shows and hides layers, from the next picture on. */
  showLayers(on: readonly boolean[]): void;
  /** Shows and hides what others marked on a page before it came. */
  showMarks(on: boolean): void;
  /** Milliseconds without movement after which a costly picture is drawn anew. */
  readonly rest: number;
  /** Whether drawing while the hand moves is never worth it. */
  readonly isCostly: boolean;
  dispose(): void;
}
