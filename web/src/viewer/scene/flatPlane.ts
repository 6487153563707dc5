import type { Point, Point3 } from "../../api/types";
import { add, dot, times, type V3 } from "../camera/eye";
import type { Cutting } from "./sections";

/** The axes that the server has laid a section flat by: to the right and up, in the model. */
export type FlatAxes = { right: Point3; up: Point3 };

const v3Of = ({ x, y, z }: Point3): V3 => [x, y, z];
/** How far off a plane a point may lie that is one of it, as a share of the model's diagonal: the points of meshes are kept as 16-bit numbers. */
const ON = 1e-4;

/** Where a point of a section that lies flat is in the model. */
export const inSpace = ({ along, at }: Cutting, { right, up }: FlatAxes, p: Point): V3 =>
  add(times(at, along), add(times(p.x, v3Of(right)), times(p.y, v3Of(up))));

/** Where a point of the model lies on a section that is laid flat; null where it does not lie on its plane. */
export const onFlat = ({ along, at }: Cutting, { right, up }: FlatAxes, p: V3, diagonal: number): Point | null =>
  Math.abs(dot(along, p) - at) > ON * diagonal ? null : { x: dot(v3Of(right), p), y: dot(v3Of(up), p) };
