import type { Shape } from "../api/types";
import type { Pen } from "./pen";

/** Markups that look alike: drawn together, for thousands of elements are more than a page can bear. */
export type Alike = {
  key: string;
  className: string;
  pen: Pen;
  fill: "none" | "tint" | "highlight";
  isCarried: boolean;
  isFaint: boolean;
  shapes: readonly Shape[];
};
