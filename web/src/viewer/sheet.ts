import type { ReactNode, Ref } from "react";
import type { PinEye, Point, SheetLeaf } from "../api/types";
import type { WindowPoint } from "./camera/points";
import type { Together } from "./camera/together";
import type { At } from "./tools/tool";

/** What is done with the hand on the sheet. */
export type Hand = {
  /** Whether something was taken hold of; otherwise the hand moves the sheet. */
  press(at: At): boolean;
  drag(at: At): void;
  release(at: At): void;
  cancel(): void;
  /** Enter, at the cross: sets a corner, or what the tool wants next. Whether it wants more. */
  place(at: At): boolean;
  /** The cross was moved by key, while a corner may be waiting for another. */
  hover(at: At): void;
  /** The pointer moves over the sheet, with nothing held. */
  glide(at: At): void;
  /** Whether a key was meant for what is picked; otherwise it moves the sheet. */
  key(e: React.KeyboardEvent, unit: number): boolean;
  isDrawing: boolean;
  /** Whether points of the file are caught. */
  isCatching?: boolean;
};
export type SheetHandle = {
  fit(): void;
  zoom(factor: number): void;
  /** What is in view: its middle, and how broad and high it is, in the sheet's units; null before anything is. */
  inView?(): { middle: Point; width: number; height: number } | null;
  /** How a model is looked at; null before it is. */
  eye?(): PinEye | null;
};
/** Maps a point of the sheet (its own coordinates) to the window. */
export type Place = (p: Point) => WindowPoint;

/** Moves the sheet only. */
export const idle: Hand = {
  press: () => false,
  drag: () => undefined,
  release: () => undefined,
  cancel: () => undefined,
  place: () => false,
  hover: () => undefined,
  glide: () => undefined,
  key: () => false,
  isDrawing: false,
};

export type SheetProps = {
  draft: string;
  /** Which sheet; not known until the draft's sheets are. */
  leaf: SheetLeaf | undefined;
  /** What the hand does besides moving the sheet. */
  hand?: Hand;
  /** Whether what others marked on a page before it came is left out. */
  isPlain?: boolean;
  layersOn: readonly boolean[] | null;
  onLayers: (layers: { name: string; isOn: boolean }[]) => void;
  /** What lies over the sheet. */
  overlay: (place: Place, unit: number) => ReactNode;
  /** Where a picture that lies on the sheet is to be had, by its file's name; null where it is not at hand. */
  pictureOf?: (file: string) => string | null;
  /** What coordinates are counted from; null for the file's own origin. */
  origin?: Point | null;
  /** What stands in the lower right corner, beside the place that the hand points at. */
  corner?: ReactNode;
  handle: Ref<SheetHandle>;
  /** Whether it lies beside the one that is worked on. */
  isSecond?: boolean;
  /** With what else it moves; null when it moves alone. */
  together?: Together | null;
  /** Once some picture of the sheet is there to be looked at. */
  onShown?: () => void;
  /** Where it lies in the window, whenever that is known anew before it is here. */
  onLaid?: ((pane: Element) => void) | undefined;
  /** Where to go, once the sheet is there; the same place is gone to again when it is given anew. */
  lookAt?: readonly Point[] | null;
};
