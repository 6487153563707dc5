import { windowPoint, type WindowPoint } from "./points";

/** A point or a direction: x to the right, y to the back, z up. */
export type V3 = readonly [number, number, number];

/** Where the eye is. It looks at `target`; `turn` goes round the upright axis from the front to the right, `tilt` from level upwards, both in radians. */
export type Eye = {
  target: V3;
  turn: number;
  tilt: number;
  /** How much of the model the window's height shows at the target, in its units. */
  height: number;
  isPerspective: boolean;
};

export const add = (a: V3, b: V3): V3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const minus = (a: V3, b: V3): V3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const times = (k: number, a: V3): V3 => [k * a[0], k * a[1], k * a[2]];
export const dot = (a: V3, b: V3) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const lengthOf = (a: V3) => Math.sqrt(dot(a, a));
export const unit = (a: V3): V3 => times(1 / (lengthOf(a) || 1), a);
export const cross = (a: V3, b: V3): V3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** Half the angle that the window's height takes in perspective. */
export const HALF_ANGLE = Math.PI / 12;
const QUARTER = Math.PI / 2;
/** Room about what is fitted. */
const MARGIN = 1.15;

/** The eye's own axes: to its right, up, and away from what it looks at. */
export function axesOf({ turn, tilt }: Pick<Eye, "turn" | "tilt">): { right: V3; up: V3; back: V3 } {
  const [s, c, st, ct] = [Math.sin(turn), Math.cos(turn), Math.sin(tilt), Math.cos(tilt)];
  return { right: [c, s, 0], up: [-s * st, c * st, ct], back: [s * ct, -c * ct, st] };
}

/** How far the eye is from its target in perspective. */
export const distanceOf = (eye: Eye) => eye.height / 2 / Math.tan(HALF_ANGLE);

/** Where a point stands in a window. `depth` grows away from the eye; it is not positive behind it in perspective. */
export function placeOf(eye: Eye, p: V3, width: number, height: number): WindowPoint & { depth: number } {
  const { right, up, back } = axesOf(eye);
  const from = minus(p, eye.target);
  const away = distanceOf(eye) - dot(from, back);
  const scale = (height / eye.height) * (eye.isPerspective ? distanceOf(eye) / Math.max(away, 1e-9) : 1);
  const at = windowPoint(width / 2 + dot(from, right) * scale, height / 2 - dot(from, up) * scale);
  return { ...at, depth: away };
}

/** The line of sight through a place of the window. */
export function rayOf(eye: Eye, x: number, y: number, width: number, height: number): { from: V3; along: V3 } {
  const { right, up, back } = axesOf(eye);
  const unit = eye.height / height;
  const aside = add(times((x - width / 2) * unit, right), times((height / 2 - y) * unit, up));
  const at = add(eye.target, aside);
  // From far enough before the model, which is never larger than what is looked at by much.
  if (!eye.isPerspective) return { from: add(at, times(eye.height * 1000, back)), along: times(-1, back) };
  const from = add(eye.target, times(distanceOf(eye), back));
  const along = minus(at, from);
  return { from, along: times(1 / lengthOf(along), along) };
}

/** Moved so that what is looked at goes with the hand, in CSS pixels. */
export function panned(eye: Eye, dx: number, dy: number, height: number): Eye {
  const { right, up } = axesOf(eye);
  const unit = eye.height / height;
  return { ...eye, target: add(eye.target, add(times(-dx * unit, right), times(dy * unit, up))) };
}

/** Turned about a point, which stays where it is in the window. The eye never goes over the top. */
export function turned(eye: Eye, about: V3, turn: number, tilt: number): Eye {
  const was = axesOf(eye);
  const next = { turn: eye.turn + turn, tilt: Math.max(-QUARTER, Math.min(QUARTER, eye.tilt + tilt)) };
  const now = axesOf(next);
  const from = minus(eye.target, about);
  const target = add(
    about,
    add(
      times(dot(from, was.right), now.right),
      add(times(dot(from, was.up), now.up), times(dot(from, was.back), now.back)),
    ),
  );
  return { ...eye, ...next, target };
}

/** Nearer by a factor, with what lies under a place of the window held still. */
export function nearer(eye: Eye, factor: number, x: number, y: number, width: number, height: number): Eye {
  const { right, up } = axesOf(eye);
  const unit = eye.height / height;
  const share = 1 - 1 / factor;
  const aside = add(times((x - width / 2) * unit * share, right), times((height / 2 - y) * unit * share, up));
  return { ...eye, height: eye.height / factor, target: add(eye.target, aside) };
}

/** The directions that are gone to by a key, in the words of the drawing trade: each is what is seen from there. */
export const standing = {
  front: { words: "Front", turn: 0, tilt: 0 },
  back: { words: "Back", turn: Math.PI, tilt: 0 },
  left: { words: "Left", turn: -QUARTER, tilt: 0 },
  right: { words: "Right", turn: QUARTER, tilt: 0 },
  top: { words: "Top", turn: 0, tilt: QUARTER },
  bottom: { words: "Bottom", turn: 0, tilt: -QUARTER },
  frontRight: { words: "Oblique, from the right", turn: 0.555, tilt: 0.485 },
  frontLeft: { words: "Oblique, from the left", turn: -0.555, tilt: 0.485 },
  backAbove: { words: "Oblique, from behind", turn: Math.PI - 0.555, tilt: 0.485 },
} as const;
export type Standing = keyof typeof standing;

/** Where one looks from, in words: “Front”, “Top”, or “front, right, above”. */
export function nameOf(eye: Pick<Eye, "turn" | "tilt">): string {
  const { back } = axesOf(eye);
  const near = 0.9999;
  for (const { words, turn, tilt } of [
    standing.front,
    standing.back,
    standing.left,
    standing.right,
    standing.top,
    standing.bottom,
  ])
    if (dot(back, axesOf({ turn, tilt }).back) > near) return words;
  const enough = 0.17;
  const said = [
    back[1] < -enough ? "front" : back[1] > enough ? "back" : "",
    back[0] > enough ? "right" : back[0] < -enough ? "left" : "",
    back[2] > enough ? "above" : back[2] < -enough ? "below" : "",
  ].filter(Boolean);
  const words = said.join(", ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** The eye that looks squarely at a face whose normal points out of it. */
export function squarely(eye: Eye, normal: V3, at: V3): Eye {
  const level = Math.hypot(normal[0], normal[1]);
  const tilt = Math.atan2(normal[2], level);
  return { ...eye, target: at, tilt, turn: level < 1e-6 ? 0 : Math.atan2(normal[0], -normal[1]) };
}

/** The eye that sees all of a box, from where it looks now. */
export function fitted(eye: Eye, box: readonly number[], width: number, height: number): Eye {
  const { right, up, back } = axesOf(eye);
  const target: V3 = [(box[0]! + box[3]!) / 2, (box[1]! + box[4]!) / 2, (box[2]! + box[5]!) / 2];
  let high = 1e-6;
  for (let i = 0; i < 8; i++) {
    const corner: V3 = [box[i & 1 ? 3 : 0]!, box[i & 2 ? 4 : 1]!, box[i & 4 ? 5 : 2]!];
    const from = minus(corner, target);
    const reach = Math.max(Math.abs(dot(from, up)), (Math.abs(dot(from, right)) * height) / Math.max(width, 1));
    // In perspective what is nearer to the eye takes more room.
    const nearer = eye.isPerspective ? 2 * Math.tan(HALF_ANGLE) * dot(from, back) : 0;
    high = Math.max(high, reach * 2 * MARGIN + nearer);
  }
  return { ...eye, target, height: high };
}

/** The direction of an eye, and whether it sees in perspective. */
export const pickEye = ({ turn, tilt, isPerspective }: Pick<Eye, "turn" | "tilt" | "isPerspective">) => ({
  turn,
  tilt,
  isPerspective,
});
