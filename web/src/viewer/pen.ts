import type { OverlayLook } from "../api/types";

/** Inks of markups that stand for themselves, by name: for lines and words, and for what is filled. */
export const inks = {
  spruce: { words: "Spruce", line: "text-spruce stroke-spruce", fill: "bg-spruce" },
  moss: { words: "Moss", line: "text-moss stroke-moss", fill: "bg-moss" },
  plum: { words: "Plum", line: "text-plum stroke-plum", fill: "bg-plum" },
  graphite: { words: "Graphite", line: "text-graphite stroke-graphite", fill: "bg-graphite" },
  ochre: { words: "Ochre", line: "text-ochre stroke-ochre", fill: "bg-ochre" },
} as const satisfies Record<OverlayLook["ink"], { words: string; line: string; fill: string }>;

/** How a pen draws, besides its ink. */
export type Pen = Pick<OverlayLook, "line" | "width" | "isTinted">;

export const usualPen: Pen = { line: "solid", width: "medium", isTinted: true };

const BREADTHS: Record<Pen["width"], number> = { fine: 0.65, medium: 1, bold: 1.75 };
/** Of the usual pen, in CSS pixels. */
const BREADTH = 1.9;

/** How broad its line is, in CSS pixels. */
export const breadthOf = (pen: Pen) => BREADTH * BREADTHS[pen.width];

/** Dashes and what lies between them, in CSS pixels; none for a line without a break. */
export const dashesOf = (pen: Pen, isCarried: boolean): readonly number[] =>
  isCarried ? [5, 3] : pen.line === "dotted" ? [0.1, 1.8 * breadthOf(pen) + 1] : [];

/** How high letters are when they are written, in CSS pixels. */
export const LETTERS: Record<OverlayLook["letters"], number> = { small: 8.5, medium: 11, large: 16 };
