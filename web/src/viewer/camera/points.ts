import type { CountedIn, Point } from "../../api/types";

/** A place on a sheet as it is stored: in the sheet's own units from its own origin, y up. */
export type SheetPoint = Point;
/** A place on a sheet from the origin of what is prepared for drawing it, in the sheet's units, y up: small enough for single precision. */
export type OffsetPoint = { x: number; y: number } & CountedIn<"offset">;
/** A place in the window: CSS pixels from its top left corner, y down. */
export type WindowPoint = { x: number; y: number } & CountedIn<"window">;

export const offsetPoint = (x: number, y: number) => ({ x, y }) as OffsetPoint;
export const windowPoint = (x: number, y: number) => ({ x, y }) as WindowPoint;

type Origin = readonly [number, number];
export const fromOrigin = (at: SheetPoint, [x, y]: Origin): OffsetPoint => offsetPoint(at.x - x, at.y - y);
export const onSheet = (at: OffsetPoint, [x, y]: Origin): SheetPoint => ({ x: at.x + x, y: at.y + y });
