import type { ReactNode, Ref } from "react";
import type { DraftName, FoundHow, ModelMeasure, ModelSpot, Pin, PinEye, Point, SceneLeaf } from "../../api/types";
import type { Hand, SheetHandle } from "../sheet";
import type { Eye } from "../camera/eye";
import type { WindowPoint } from "../camera/points";
import type { MeasureSaid } from "./measured";
import type { ViewPlane } from "./onView";
import type { SectionPlane } from "./sections";
import type { CarriedPins } from "./useFoundAgain";
import type { KeptMeasures } from "./useMeasured";

/** A place in the window; whether something of the model lies before it. */
export type Spot = WindowPoint & { isHidden: boolean };

/** What those need that lie over a model and go with the eye. */
export type SceneOver = {
  eye: Eye;
  plane: ViewPlane;
  /**
   * Where a thing stands in the window now; null where its component is not shown, or is not there.
   * @param id the markup, where it may have been carried here, and it matters whether something hides it
   */
  place: (spot: Pick<ModelSpot, "component" | "path" | "at">, id?: string) => Spot | null;
  /** How surely what was carried here was found again; null until that is known, or where it was set here. */
  howFound: (id: string) => FoundHow | null;
  /** What kept measures come to, and where their ends stand in the window. */
  measured: (id: string) => (Omit<MeasureSaid, "ends"> & { ends: readonly { x: number; y: number }[] | null }) | null;
};

/** Where to go on a model. */
export type SceneLook = {
  draft: string;
  /** What is seen; null for as much as shows what is looked for. */
  eye: PinEye | null;
  spot: Pick<ModelSpot, "component" | "path"> | null;
  /** The number or name of the components that are looked for, or their material. */
  words?: string;
};

export type SceneProps = {
  draft: string;
  leaf: SceneLeaf;
  handle: Ref<SheetHandle>;
  /** Whether it lies beside the one that is worked on. */
  isSecond?: boolean;
  /** What lies over the model. */
  overlay?: (over: SceneOver) => ReactNode;
  /** Sets a pin on what is picked, or keeps a measure of it; null where nothing can be set. */
  onSet?: ((shape: Pin | ModelMeasure) => void) | null;
  /** What setting a pin is called. */
  pinWords?: string;
  /** Draws on the view; null where nothing can be drawn. */
  hand?: Hand | null;
  /** Picks the markup that was drawn on the view, at a point of its plane; whether there is one. */
  onMark?: ((eye: Eye, at: Point, unit: number) => boolean) | null;
  /** Whether a markup that was drawn on the view lies at a point of its plane. */
  isMarked?: ((eye: Eye, at: Point, unit: number) => boolean) | null;
  /** What is kept of the model's measures, and the pins that were carried here from other drafts. */
  measures?: KeptMeasures;
  carried?: CarriedPins;
  /** Erases what is picked among the markups; null where nothing of one's own is. */
  onErase?: (() => void) | null;
  /** Where to go: to what an eye saw. The same is gone to again when it is given anew. */
  lookAt?: { scene?: SceneLook | null } | null;
  /** Hears the numbers of what is picked. */
  onNumbers?: (numbers: readonly string[]) => void;
  /** Opens the document of a component's number; null or left out where none can be. */
  onDocument?: ((to: { name: DraftName }) => void) | null;
  /** Spots that an open request stands on, by markup. */
  requests?: readonly { id: string; shape: Pin }[];
  /** Where the sections set on the model are kept between visits; left out where they are not. */
  keptSections?: { now: readonly SectionPlane[]; keep: (all: readonly SectionPlane[]) => void };
  /** Once the model is there to be looked at. */
  onShown?: () => void;
};
