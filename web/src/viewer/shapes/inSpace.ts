import type { ModelMeasure, OnView, Pin } from "../../api/types";
import type { ShapeKind } from "./shape";

const nowhere = { x: 0, y: 0 };

/** What stands in space, so that nothing of it is drawn on a sheet: a spot, a measure, what was drawn on a view. It is made anew rather than reshaped. */
export const inSpace: ShapeKind<Pin & ModelMeasure & OnView> = {
  detail: 1,
  outline: () => ({ lines: [], fill: "none" }),
  label: () => nowhere,
  anchor: () => nowhere,
  handles: () => [],
  reshaped: (shape) => shape,
  moved: (shape) => shape,
  hasSize: () => true,
};
