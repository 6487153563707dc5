import type { Point, Shape } from "../../api/types";
import type { Mark } from "../markup/store";
import { LETTERS } from "../pen";

/** Where the hand is: on the sheet, and how many of its units a CSS pixel is. */
export type At = {
  at: Point;
  unit: number;
  /** Whether nothing is to be caught near it. */
  isFree?: boolean;
  /** Whether it adds to what is picked, or means all of what is about it. */
  isAdding?: boolean;
  /** Where the hand is itself, where it was caught by something. */
  free?: Point;
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
  /** What else is picked. */
  others?: readonly string[];
  /** True millimetres in a unit of the sheet at a place; null where its scale is not known. */
  factorAt?: (p: Point) => number | null;
  /** How high letters are when they are written, in CSS pixels. */
  letters?: number;
  /** What coordinates are counted from; left out for the file's own origin. */
  origin?: Point;
};

/** What a tool holds between events, by the tool; one of another tool's is none of its own. */
export type ToolState =
  | { tool: "twoPoint"; from: Point }
  /** Points set so far, and where the hand was pressed since the last was. */
  | { tool: "path"; points: Point[]; pressed: Point | null; unit: number }
  | { tool: "freehand"; points: Point[] }
  | { tool: "points"; points: Point[]; pressed: Point | null }
  /** One's own markups that are picked as well are moved along. */
  | {
      tool: "look";
      id: string;
      shape: Shape;
      along: readonly Reshaped[];
      from: Point;
      handle: number | null;
      isMoving: boolean;
    }
  /** A box is drawn round what is to be picked. */
  | { tool: "picking"; from: Point };

/** A markup's shape as it is to be. */
export type Reshaped = { id: string; shape: Shape };

/** What comes of an event. A tool without a state is at rest, and the hand moves the sheet. */
export type Step = {
  state: ToolState | null;
  /** Drawn instead of what lies there; by the markup's id, or with none when it is new. */
  preview?: { id: string | null; shape: Shape };
  /** A new shape. */
  drawn?: Shape;
  /** A new shape whose words are to be written. */
  writes?: Shape;
  /** What is drawn along with it instead of what lies there. */
  along?: readonly Reshaped[];
  /** The box round what is to be picked. */
  box?: { from: Point; to: Point };
  /** The area is to be measured that the lines about this point enclose. */
  encloses?: Point;
  /** Markups' shapes are others: one gesture. */
  changed?: readonly Reshaped[];
  /** What is picked from now on, and nothing else. */
  picks?: string | null;
  /** What is picked as well from now on, or no more. */
  toggles?: string;
  /** All that is picked from now on. */
  picksAll?: readonly string[];
};

/** A tool: what it does with what the hand does. Pure, so that it is driven by tests as by a hand. */
export type Tool = (state: ToolState | null, event: ToolEvent, seen: Seen) => Step;

export const lettersOf = ({ letters = LETTERS.medium }: Seen) => letters;

/** Least movement that is not a press that trembles, in CSS pixels. */
export const LEAST = 6;
