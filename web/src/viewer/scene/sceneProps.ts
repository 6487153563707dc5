import type { ReactNode, Ref } from "react";
import type { Pin, SceneLeaf } from "../../api/types";
import type { SheetHandle } from "../sheet";

/** Where a pin stands in the window now; null where its component is not shown, or is not there. */
export type PinPlace = (pin: Pin) => { x: number; y: number } | null;

export type SceneProps = {
  draft: string;
  leaf: SceneLeaf;
  handle: Ref<SheetHandle>;
  /** Whether it lies beside the one that is worked on. */
  isSecond?: boolean;
  /** What lies over the model. */
  overlay?: (place: PinPlace) => ReactNode;
  /** Sets a pin on what is picked; null where none can be set. */
  onPin?: ((pin: Pin) => void) | null;
  /** Where to go: to what a pin's eye saw. The same is gone to again when it is given anew. */
  lookAt?: { pin?: Pin | null } | null;
  /** Once the model is there to be looked at. */
  onShown?: () => void;
};
