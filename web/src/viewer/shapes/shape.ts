import type { Point } from "../../api/types";

/** How a shape is drawn, in the sheet's units; the server's Outline (Core/Overlays) is the same to the last point (tests/cases/shapes.json). */
export type Outline = {
  lines: Point[][];
  /** Whether what a closed line encloses is tinted. */
  fills: boolean;
};

/** What can be done with a kind of shape. */
export type ShapeKind<S> = {
  /** @param detail how long its small parts are, in the sheet's units */
  outline(shape: S, detail: number): Outline;
  /** Where the number of its note stands. */
  label(shape: S): Point;
  /** The point it is about. */
  anchor(shape: S): Point;
  /** The points that can be taken hold of, in an order that does not change. */
  handles(shape: S): Point[];
  /** The shape with a handle somewhere else. */
  reshaped(shape: S, handle: number, to: Point): S;
  moved(shape: S, dx: number, dy: number): S;
  /** Whether it has a size. */
  hasSize(shape: S): boolean;
  /** How long its small parts are on the screen, in CSS pixels. */
  detail: number;
};
