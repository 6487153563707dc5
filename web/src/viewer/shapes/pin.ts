import type { Pin } from "../../api/types";
import type { ShapeKind } from "./shape";

const nowhere = { x: 0, y: 0 };

/** A spot on a model: it stands in space, so that nothing of it is drawn on a sheet. It is set anew rather than reshaped. */
export const pin: ShapeKind<Pin> = {
  detail: 1,
  outline: () => ({ lines: [], fill: "none" }),
  label: () => nowhere,
  anchor: () => nowhere,
  handles: () => [],
  reshaped: (shape) => shape,
  moved: (shape) => shape,
  hasSize: () => true,
};
