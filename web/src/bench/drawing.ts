import {
  ArrowUpRight,
  CircleDot,
  Cloud,
  Crosshair,
  DraftingCompass,
  Hexagon,
  Highlighter,
  ListOrdered,
  MessageSquareText,
  PenLine,
  Ruler,
  Slash,
  Spline,
  Square,
  Stamp,
  SquareDashed,
  Strikethrough,
  Circle,
  Type,
  Waypoints,
  type LucideIcon,
} from "lucide-react";
import type { Shape } from "../api/types";
import { isInSpace, type DrawnName, type ShapeName } from "../viewer/shapes";
import { angle, area, coordinate, dimension, pathLength, radius } from "../viewer/tools/measures";
import { freehand, path } from "../viewer/tools/path";
import type { Tool } from "../viewer/tools/tool";
import { twoPoint } from "../viewer/tools/twoPoint";
import { count, leader, stamp, words } from "../viewer/tools/words";

/** A tool that draws, as the toolbar, the keys and the list of commands offer it. */
export type Drawing = {
  words: string;
  key: string;
  icon: LucideIcon;
  tool: Tool;
  /** Whether its points are caught by those of the file. */
  isExact?: boolean;
  /** Whether it stays in the hand after it has drawn. */
  isLasting?: boolean;
};

/** Every tool that draws; the first few stand in the toolbar, the others behind a button of it. */
export const drawings: { readonly [Name in DrawnName]: Drawing } = {
  cloud: { words: "Cloud", key: "c", icon: Cloud, tool: twoPoint("cloud") },
  arrow: { words: "Arrow", key: "a", icon: ArrowUpRight, tool: twoPoint("arrow") },
  dimension: { words: "Measure", key: "m", icon: Ruler, tool: dimension, isExact: true },
  radius: { words: "Measure a circle", key: "q", icon: CircleDot, tool: radius, isExact: true },
  angle: { words: "Measure an angle", key: "e", icon: DraftingCompass, tool: angle, isExact: true },
  area: {
    words: "Measure an area; with Shift, a closed region",
    key: "u",
    icon: SquareDashed,
    tool: area,
    isExact: true,
  },
  pathLength: { words: "Measure along a path", key: "j", icon: Waypoints, tool: pathLength, isExact: true },
  coordinate: {
    words: "Coordinates of a point",
    key: "h",
    icon: Crosshair,
    tool: coordinate,
    isExact: true,
    isLasting: true,
  },
  cloudPath: {
    words: "Cloud by points",
    key: "k",
    icon: Hexagon,
    tool: path((points) => ({ shape: "cloudPath", points }), true),
  },
  box: { words: "Box", key: "r", icon: Square, tool: twoPoint("box") },
  ellipse: { words: "Ellipse", key: "o", icon: Circle, tool: twoPoint("ellipse") },
  line: { words: "Line", key: "l", icon: Slash, tool: twoPoint("line"), isExact: true },
  polyline: {
    words: "Line by points",
    key: "p",
    icon: Spline,
    tool: path((points) => ({ shape: "polyline", points }), false),
    isExact: true,
  },
  freehand: { words: "Freehand", key: "d", icon: PenLine, tool: freehand },
  highlight: { words: "Highlight", key: "i", icon: Highlighter, tool: twoPoint("highlight") },
  strike: { words: "Strike through", key: "x", icon: Strikethrough, tool: twoPoint("strike") },
  words: { words: "Words", key: "t", icon: Type, tool: words },
  stamp: { words: "Stamp", key: "g", icon: Stamp, tool: stamp },
  count: { words: "Count", key: "z", icon: ListOrdered, tool: count, isLasting: true },
  leader: { words: "Words with an arrow", key: "w", icon: MessageSquareText, tool: leader },
};

export const isExact = (tool: "look" | DrawnName) => tool !== "look" && drawings[tool].isExact === true;

export const isLasting = (name: ShapeName) =>
  name !== "cells" && name !== "picture" && !isInSpace(name) && drawings[name].isLasting === true;

/** Those that can be drawn on a view of a model: what measures goes by the scale of a sheet. */
export const onViews: readonly DrawnName[] = ["cloud", "arrow", "box", "line", "freehand", "words", "leader"];

/** Those that no tool of the sheet draws. */
const others: Readonly<Record<Exclude<ShapeName, DrawnName>, string>> = {
  ...{ picture: "Picture", cells: "Cells" },
  ...{ pin: "Spot", modelMeasure: "Measure of the model", onView: "Drawn on a view" },
};

/** What a kind of shape is called. */
export const shapeWords = (name: ShapeName) =>
  name in others ? others[name as keyof typeof others] : drawings[name as DrawnName].words;

/** Those that stand in the toolbar by themselves. */
export const foremost: readonly DrawnName[] = ["cloud", "arrow", "dimension"];
export const drawnNames = Object.keys(drawings) as DrawnName[];

/** Shapes that say where, not what: a note is begun with each; all others stand for themselves. */
const asking: ReadonlySet<ShapeName> = new Set(["cloud", "cloudPath", "box", "ellipse", "arrow", "cells", "pin"]);
export const asksForNote = (shape: Shape) => asking.has(shape.shape === "onView" ? shape.drawn.shape : shape.shape);
