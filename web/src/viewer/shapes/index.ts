import type { MarkPlace, Point, Shape } from "../../api/types";
import { arrow, leader } from "./arrow";
import { cells } from "./cells";
import { inSpace } from "./inSpace";
import { cloud, cloudPath } from "./cloud";
import { dimension } from "./dimension";
import { angle, area, coordinate, pathLength, radius } from "./measures";
import { freehand, polyline, toSegment } from "./path";
import { box, ellipse, highlight, line, picture, strike } from "./rounds";
import type { Outline, ShapeKind } from "./shape";
import { count, stamp } from "./stamp";
import { roomOf, words } from "./words";

export type ShapeName = Shape["shape"];
/** Those that are drawn on a sheet. */
export type DrawnName = Exclude<ShapeName, "cells" | "picture" | SpaceName>;
/** Those that stand in space, on a model. */
export type SpaceName = "pin" | "modelMeasure" | "onView";
const spaceNames: ReadonlySet<ShapeName> = new Set<SpaceName>(["pin", "modelMeasure", "onView"]);
export const isInSpace = (name: ShapeName): name is SpaceName => spaceNames.has(name);
/** Those that are made of two points and nothing else. */
export type BetweenName = "cloud" | "box" | "ellipse" | "highlight" | "line" | "strike" | "arrow";

/** Every kind of shape; one that is added must stand here. */
const kinds: { readonly [Name in ShapeName]: ShapeKind<Extract<Shape, { shape: Name }>> } = {
  ...{ cloud, cloudPath, picture, box, ellipse, highlight, line, strike, arrow, leader },
  ...{ stamp, count, polyline, freehand, words, dimension, area, angle, radius, pathLength, coordinate, cells },
  ...{ pin: inSpace, modelMeasure: inSpace, onView: inSpace },
};

/** What can be done with a shape, whatever its kind. */
const kindOf = (shape: Shape) => kinds[shape.shape] as unknown as ShapeKind<Shape>;

/** @param unit sheet units per CSS pixel */
export const outlineOf = (shape: Shape, unit: number): Outline =>
  kindOf(shape).outline(shape, kindOf(shape).detail * unit);
/** How long the small parts of a kind are on the screen, in CSS pixels. */
export const detailOf = (name: ShapeName) => kinds[name].detail;
export const labelOf = (shape: Shape) => kindOf(shape).label(shape);
export const anchorOf = (shape: Shape) => kindOf(shape).anchor(shape);
export const handlesOf = (shape: Shape) => kindOf(shape).handles(shape);
export const reshaped = (shape: Shape, handle: number, to: Point) => kindOf(shape).reshaped(shape, handle, to);
export const moved = (shape: Shape, dx: number, dy: number) => kindOf(shape).moved(shape, dx, dy);
export const hasSize = (shape: Shape) => kindOf(shape).hasSize(shape);
/** A shape from one point to another. */
export const between = (name: BetweenName, from: Point, to: Point): Shape => ({ shape: name, from, to });

/** Two opposite corners of what a shape covers. */
export function reachOf(shape: Shape): [Point, Point] {
  if (shape.shape === "cells") return [shape.from, { x: shape.to.x + 1, y: shape.to.y + 1 }];
  if (isInSpace(shape.shape)) return [anchorOf(shape), anchorOf(shape)];
  const { lines, words } = outlineOf(shape, 0.001);
  const all = [...handlesOf(shape), ...lines.flat(), ...(words ? roomOf(words) : [])];
  let [left, bottom, right, top] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { x, y } of all) {
    [left, right] = [Math.min(left, x), Math.max(right, x)];
    [bottom, top] = [Math.min(bottom, y), Math.max(top, y)];
  }
  return [
    { x: left, y: bottom },
    { x: right, y: top },
  ];
}

/** Where a shape lies: ranges of cells on a table, what stands in space on a model, everything else on a sheet. */
export const placeOf = (shape: Shape, leaf: number): MarkPlace => ({
  on: shape.shape === "cells" ? "cells" : isInSpace(shape.shape) ? "scene" : "sheet",
  leaf,
});

/** What the server tells of shapes besides what makes them: it follows from their points, and is old once those are moved. */
const derived: ReadonlySet<string> = new Set(["length", "size", "turn"]);

/** The server writes what a shape is made of in an order of its own, and null for what is left out. */
const written = (shape: Shape) =>
  JSON.stringify(shape, (_, value: unknown) =>
    value && typeof value === "object" && !Array.isArray(value)
      ? Object.fromEntries(
          Object.entries(value)
            .filter(([name, v]) => v !== null && !derived.has(name))
            .sort(([a], [b]) => a.localeCompare(b)),
        )
      : value,
  );
export const sameShape = (a: Shape, b: Shape) => a === b || written(a) === written(b);

/** How far a point lies from a shape's lines, in the sheet's units; of words and of what is inked whole, none within. */
export function distanceTo(shape: Shape, p: Point, unit: number): number {
  const { lines, fill, words } = outlineOf(shape, unit);
  const isWhole = fill === "highlight" || shape.shape === "picture";
  const room = words ? roomOf(words) : isWhole ? reachOf(shape) : null;
  if (room && p.x >= room[0].x && p.x <= room[1].x && p.y >= room[0].y && p.y <= room[1].y) return 0;
  let least = Infinity;
  for (const line of lines)
    for (let i = 1; i < line.length; i++) least = Math.min(least, toSegment(p, line[i - 1]!, line[i]!));
  return least;
}
