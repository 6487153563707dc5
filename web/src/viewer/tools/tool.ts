import type { Point, Shape } from "../../api/types";
import type { Mark } from "../markup/store";

/** Where the hand is: on the sheet, and how many of its units a CSS pixel is. */
export type At = {
  at: Point;
  unit: number;
  /** Whether nothing is to be caught near it. */
  isFree?: boolean;
  /** The middle of the circle that it was caught by; left out where it was by none. */
  centre?: Point;
};

/** What the hand does. */
export type ToolEvent =
  | ({ does: "press" | "drag" | "release" } & At)
  /** By key: a corner is set at the cross, or the cross was moved. */
  | ({ does: "place" | "hover" } & At)
  /** What takes any number of points has them all; or the last of them was not meant. */
  | { does: "end" }
  | { does: "back" }
  | { does: "cancel" };

/** What a tool sees: what lies on the sheet, the topmost last, and what is picked. */
export type Seen = {
  marks: readonly Mark[];
  picked: string | null;
  /** True millimetres in a unit of the sheet at a place; null where its scale is not known. */
  factorAt?: (p: Point) => number | null;
};

/** What a tool holds between events, by the tool; one of another tool's is none of its own. */
export type ToolState =
  | { tool: "twoPoint"; from: Point }
  /** Points set so far, and where the hand was pressed since the last was. */
  | { tool: "path"; points: Point[]; pressed: Point | null; unit: number }
  | { tool: "freehand"; points: Point[] }
  | { tool: "points"; points: Point[]; pressed: Point | null }
  | { tool: "look"; id: string; shape: Shape; from: Point; handle: number | null; isMoving: boolean };

/** What comes of an event. A tool without a state is at rest, and the hand moves the sheet. */
export type Step = {
  state: ToolState | null;
  /** Drawn instead of what lies there; by the markup's id, or with none when it is new. */
  preview?: { id: string | null; shape: Shape };
  /** A new shape. */
  drawn?: Shape;
  /** A new shape whose words are to be written. */
  writes?: Shape;
  /** A markup's shape is another. */
  changed?: { id: string; shape: Shape };
  /** What is picked from now on. */
  picks?: string | null;
};

/** A tool: what it does with what the hand does. Pure, so that it is driven by tests as by a hand. */
export type Tool = (state: ToolState | null, event: ToolEvent, seen: Seen) => Step;

/** Least movement that is not a press that trembles, in CSS pixels. */
export const LEAST = 6;
