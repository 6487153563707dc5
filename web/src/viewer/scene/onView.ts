import type { PinEye, Point } from "../../api/types";
import { windowPoint } from "../camera/points";
import type { Place } from "../sheet";
import { axesOf, dot, minus, type Eye } from "../camera/eye";
import { eyeOf } from "./viewNow";

/** The plane that an eye draws on: through what it looks at, square to its look; x to its right, y up, in the model's unit. */
export type ViewPlane = {
  place: Place;
  pointAt: (x: number, y: number) => Point;
  /** Units of the plane per CSS pixel. */
  unit: number;
};

export function planeOf(eye: Eye, width: number, height: number): ViewPlane {
  const unit = eye.height / height;
  return {
    place: (p) => windowPoint(width / 2 + p.x / unit, height / 2 - p.y / unit),
    pointAt: (x, y) => ({ x: (x - width / 2) * unit, y: (height / 2 - y) * unit }),
    unit,
  };
}

/** Two directions are one below this, in radians; two lengths below as much of the eye's height. */
const ALIKE = 1e-6;

const isWhole = (angle: number) => Math.abs(angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI))) < ALIKE;

/**
 * How far what was drawn on a view has to be moved to lie where it lay, as an eye sees it now; null where that looks another way. In
 * perspective it lies there only for the same eye, for nearer and farther things move apart.
 */
export function shiftOnto(drawn: PinEye, now: Eye): { dx: number; dy: number } | null {
  const was = eyeOf(drawn);
  if (was.isPerspective !== now.isPerspective || !isWhole(was.turn - now.turn) || !isWhole(was.tilt - now.tilt))
    return null;
  const { right, up, back } = axesOf(now);
  const way = minus(was.target, now.target);
  const [dx, dy] = [dot(way, right), dot(way, up)];
  if (!now.isPerspective) return { dx, dy };
  const far = Math.max(Math.abs(dx), Math.abs(dy), Math.abs(dot(way, back)), Math.abs(was.height - now.height));
  return far < ALIKE * now.height ? { dx: 0, dy: 0 } : null;
}
