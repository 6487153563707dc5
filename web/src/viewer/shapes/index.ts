import type { MarkPlace, Point, Shape } from "../../api/types";
import { arrow } from "./arrow";
import { cells } from "./cells";
import { cloud } from "./cloud";
import type { Outline, ShapeKind } from "./shape";

export type ShapeName = Shape["shape"];
/** Those that are drawn on a sheet. */
export type DrawnName = Exclude<ShapeName, "cells">;

/** Every kind of shape; one that is added must stand here. */
const kinds: { readonly [Name in ShapeName]: ShapeKind<Extract<Shape, { shape: Name }>> } = { cloud, arrow, cells };

/** What can be done with a shape, whatever its kind. */
const kindOf = (shape: Shape) => kinds[shape.shape] as unknown as ShapeKind<Shape>;

/** @param unit sheet units per CSS pixel */
export const outlineOf = (shape: Shape, unit: number): Outline =>
  kindOf(shape).outline(shape, kindOf(shape).detail * unit);
export const labelOf = (shape: Shape) => kindOf(shape).label(shape);
export const anchorOf = (shape: Shape) => kindOf(shape).anchor(shape);
export const handlesOf = (shape: Shape) => kindOf(shape).handles(shape);
export const reshaped = (shape: Shape, handle: number, to: Point) => kindOf(shape).reshaped(shape, handle, to);
export const moved = (shape: Shape, dx: number, dy: number) => kindOf(shape).moved(shape, dx, dy);
export const hasSize = (shape: Shape) => kindOf(shape).hasSize(shape);
/** Shapes that are drawn from one point to another. */
export const between = (name: DrawnName, from: Point, to: Point): Shape => ({ shape: name, from, to });

/** Two opposite corners of what a shape covers. */
export const reachOf = (shape: Shape): [Point, Point] =>
  shape.shape === "cells" ? [shape.from, { x: shape.to.x + 1, y: shape.to.y + 1 }] : [shape.from, shape.to];

/** Where a shape lies: ranges of cells on a table, everything else on a sheet. */
export const placeOf = (shape: Shape, leaf: number): MarkPlace => ({
  on: shape.shape === "cells" ? "cells" : "sheet",
  leaf,
});

export const sameShape = (a: Shape, b: Shape) =>
  a.shape === b.shape && a.from.x === b.from.x && a.from.y === b.from.y && a.to.x === b.to.x && a.to.y === b.to.y;

/** How far a point lies from a shape's lines, in the sheet's units. */
export function distanceTo(shape: Shape, p: Point, unit: number): number {
  let least = Infinity;
  for (const line of outlineOf(shape, unit).lines)
    for (let i = 1; i < line.length; i++) least = Math.min(least, toSegment(p, line[i - 1]!, line[i]!));
  return least;
}

function toSegment(p: Point, a: Point, b: Point): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / square));
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}
