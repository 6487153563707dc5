import type { Point, Shape } from "../../api/types";

/** Shapes of one kind. */
export type Of<Name extends Shape["shape"]> = Extract<Shape, { shape: Name }>;

/** Words on the sheet, line beneath line: from their upper left corner, or to their upper right one. */
export type OutlineWords = { at: Point; text: string; height: number; endsThere: boolean };

/** How a shape is drawn, in the sheet's units; the server's Outline (Core/Overlays) is the same to the last point (tests/cases/shapes.json). */
export type Outline = {
  lines: Point[][];
  /** What a closed line encloses: nothing, a tint, or the ink of a broad pale pen. */
  fill: "none" | "tint" | "highlight";
  words?: OutlineWords;
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

export const by = (p: Point, dx: number, dy: number): Point => ({ x: p.x + dx, y: p.y + dy });
