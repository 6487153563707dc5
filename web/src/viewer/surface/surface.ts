import type { View } from "../camera/view";
import type { Painter } from "./painter";

/** A sheet as it is looked at, whatever it is drawn from. Coordinates are the sheet's own less `origin`, y up. */
export type Surface = {
  name: string;
  unit: string;
  origin: readonly [number, number];
  /** Least x, least y, greatest x, greatest y, in sheet coordinates. */
  extents: readonly [number, number, number, number];
  layers: readonly { name: string; isOn: boolean }[];
  /** Throws when this machine cannot draw it. `onFault` is told when drawing goes wrong later. */
  painter(canvas: HTMLCanvasElement, onFault: (words: string) => void): Painter;
  /** Draws the texts that the painter leaves out; null when it leaves none. */
  letter:
    | ((
        canvas: HTMLCanvasElement,
        on: readonly boolean[],
        view: View,
        width: number,
        height: number,
        ratio: number,
      ) => void)
    | null;
};
