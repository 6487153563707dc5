import type { Point } from "../../api/types";
import { BoxGrid } from "./grid";

/** What a point that was caught is, by the trade's word. */
export type SnapKind =
  "end" | "middle" | "centre" | "quadrant" | "crossing" | "at right angles" | "touching" | "on the line";
/** @param centre the middle of the circle that it lies on, where it lies on one */
export type Snap = { at: Point; kind: SnapKind; centre?: Point };

/** What can be caught on a sheet, as the server prepared it (PreparedSheet.cs); all points are offsets from the sheet's origin. */
export type SnapSource = {
  /** Four numbers for each stroke. */
  segments: Float32Array;
  /** Which ends of each stroke are points of the file: 1 the first, 2 the second, 3 a whole line of the file. */
  ends: Uint8Array;
  segmentEntity: Uint32Array;
  /** Eight numbers for each curve: centre, major vector, minor vector, first and last angle; of a line where it begins, and the way to its end. */
  curves: Float32Array;
  curveEntity: Uint32Array;
  /** Whether a curve is an arc. */
  isArc: Uint8Array;
};

/** The ease with which each kind is caught: it is looked for before those that lie farther by more than this, in CSS pixels. */
const EASE: Readonly<Record<SnapKind, number>> = {
  ...{ end: 6, centre: 5, crossing: 5, middle: 4, quadrant: 4, "at right angles": 3, touching: 3, "on the line": -8 },
};
/** How near the hand must come, in CSS pixels. */
export const NEAR = 10;
/** Strokes looked at, and those whose crossings are. */
const MOST = 4000;
const CROSSED = 24;
/** Of what is caught, so many are offered: nobody goes through more. */
const OFFERED = 8;
/** Strokes shorter than this on the screen, in CSS pixels, are not pointed at. */
const SMALL = 2;

const far = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y);

/** Catches points of the file near the hand. */
export class Snapping {
  private readonly strokes: BoxGrid;
  private readonly arcs: BoxGrid;
  private readonly lines: BoxGrid;
  private readonly centres: BoxGrid;

  constructor(private readonly from: SnapSource) {
    const { segments, curves, isArc } = from;
    const count = segments.length / 4;
    const boxes = new Float32Array(segments.length);
    for (let i = 0; i < count; i++) {
      const [x0, y0, x1, y1] = [segments[4 * i]!, segments[4 * i + 1]!, segments[4 * i + 2]!, segments[4 * i + 3]!];
      boxes[4 * i] = x0 < x1 ? x0 : x1;
      boxes[4 * i + 1] = y0 < y1 ? y0 : y1;
      boxes[4 * i + 2] = x0 < x1 ? x1 : x0;
      boxes[4 * i + 3] = y0 < y1 ? y1 : y0;
    }
    this.strokes = new BoxGrid(boxes);
    const none = [1, 1, 0, 0];
    const of = (wanted: 0 | 1, box: (i: number) => number[]) =>
      new BoxGrid(Float32Array.from([...isArc.keys()].flatMap((i) => (isArc[i] === wanted ? box(i) : none))));
    const c = (i: number, k: number) => curves[8 * i + k]!;
    this.arcs = of(1, (i) => {
      const [w, h] = [Math.hypot(c(i, 2), c(i, 4)), Math.hypot(c(i, 3), c(i, 5))];
      return [c(i, 0) - w, c(i, 1) - h, c(i, 0) + w, c(i, 1) + h];
    });
    this.lines = of(0, (i) => {
      const [x, y] = [c(i, 0) + c(i, 2), c(i, 1) + c(i, 3)];
      return [Math.min(c(i, 0), x), Math.min(c(i, 1), y), Math.max(c(i, 0), x), Math.max(c(i, 1), y)];
    });
    this.centres = of(1, (i) => [c(i, 0), c(i, 1), c(i, 0), c(i, 1)]);
  }

  /**
   * What can be caught near a point, the likeliest first.
   * @param unit units of the sheet in a CSS pixel
   * @param from where the line that is drawn begins, for what lies at right angles to it and what it touches; null where none is
   * @param isShown whether an entity is shown
   */
  at(p: Point, unit: number, from: Point | null, isShown: (entity: number) => boolean): Snap[] {
    const within = NEAR * unit;
    const found: (Snap & { ease: number })[] = [];
    const catches = (kind: SnapKind, at: Point, centre?: Point) => {
      const d = far(at, p);
      if (d <= within) found.push({ at, kind, ease: d / unit - EASE[kind], ...(centre && { centre }) });
    };
    const { segments, ends, segmentEntity, curves, curveEntity } = this.from;
    type Stroke = { a: Point; b: Point; d: number };
    const strokes: Stroke[] = [];
    const stroke = (a: Point, b: Point) => {
      const foot = footOf(p, a, b);
      const d = far(foot, p);
      if (d > within) return false;
      strokes.push({ a, b, d });
      catches("on the line", foot);
      return true;
    };
    const isWhole = (a: Point, b: Point) => {
      catches("end", a);
      catches("end", b);
      catches("middle", { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
    };
    const atRightAngles = (a: Point, b: Point) => {
      if (from && far(a, b) > 0) catches("at right angles", footOf(from, a, b));
    };
    for (const i of this.strokes.near(p.x, p.y, within, SMALL * unit, MOST)) {
      if (!isShown(segmentEntity[i]!)) continue;
      const a = { x: segments[4 * i]!, y: segments[4 * i + 1]! };
      const b = { x: segments[4 * i + 2]!, y: segments[4 * i + 3]! };
      if (!stroke(a, b)) continue;
      const marked = ends[i]!;
      if (marked & 1) catches("end", a);
      if (marked & 2) catches("end", b);
      if (marked === 3) isWhole(a, b);
      if (marked === 3) atRightAngles(a, b);
    }
    // Lines that were drawn in dashes are whole here.
    for (const i of this.lines.near(p.x, p.y, within, SMALL * unit, MOST)) {
      if (!isShown(curveEntity[i]!)) continue;
      const a = { x: curves[8 * i]!, y: curves[8 * i + 1]! };
      const b = { x: a.x + curves[8 * i + 2]!, y: a.y + curves[8 * i + 3]! };
      if (far(footOf(p, a, b), p) > within) continue;
      isWhole(a, b);
      atRightAngles(a, b);
    }
    for (const i of this.centres.near(p.x, p.y, within, 0, MOST))
      if (isShown(curveEntity[i]!)) catches("centre", { x: curves[8 * i]!, y: curves[8 * i + 1]! });
    for (const i of this.arcs.near(p.x, p.y, within, SMALL * unit, MOST))
      if (isShown(curveEntity[i]!)) this.arc(i, p, within, from, catches, found);
    strokes.sort((a, b) => a.d - b.d);
    const few = strokes.slice(0, CROSSED);
    for (let i = 0; i < few.length; i++)
      for (let k = 0; k < i; k++) {
        const at = crossing(few[i]!.a, few[i]!.b, few[k]!.a, few[k]!.b);
        if (at) catches("crossing", at);
      }
    found.sort((a, b) => a.ease - b.ease);
    const all: Snap[] = [];
    for (const { at, kind, centre } of found) {
      if (all.length === OFFERED) break;
      if (
        !all.some((s) => far(s.at, at) < unit / 4 && (s.kind === kind || kind === "crossing" || kind === "on the line"))
      )
        all.push({ at, kind, ...(centre && { centre }) });
    }
    return all;
  }

  /** The true circle or arc that its chords only come near. */
  private arc(
    i: number,
    p: Point,
    within: number,
    from: Point | null,
    catches: (kind: SnapKind, at: Point, centre?: Point) => void,
    found: { at: Point; kind: SnapKind; ease: number }[],
  ) {
    const [x, y, mx, my, nx, ny, first, last] = this.from.curves.subarray(8 * i, 8 * i + 8) as unknown as number[] as [
      ...[number, number, number, number, number, number, number, number],
    ];
    const on = (t: number): Point => ({
      x: x + mx * Math.cos(t) + nx * Math.sin(t),
      y: y + my * Math.cos(t) + ny * Math.sin(t),
    });
    const has = (t: number) => {
      const turn = 2 * Math.PI;
      return last - first >= turn - 1e-6 || (((t - first) % turn) + turn) % turn <= last - first + 1e-6;
    };
    const nearest = angleNearest({ x, y }, [mx, my], [nx, ny], p);
    if (!has(nearest) || far(on(nearest), p) > within) return;
    // The chords of a curve are no lines of the file: what was caught on them gives way to what lies on the curve.
    for (let k = found.length - 1; k >= 0; k--)
      if (found[k]!.kind === "on the line" && far(found[k]!.at, on(nearest)) < within / 8) found.splice(k, 1);
    const isRound = Math.abs(Math.hypot(mx, my) - Math.hypot(nx, ny)) < 1e-4 * Math.hypot(mx, my);
    const centre = isRound ? { x, y } : undefined;
    catches("on the line", on(nearest), centre);
    for (let q = 0; q < 4; q++) if (has((q * Math.PI) / 2)) catches("quadrant", on((q * Math.PI) / 2), centre);
    // The middle of a circle is caught by its line as well: at the hand when nothing else is.
    found.push({ at: { x, y }, kind: "centre", ease: 1e6 });
    if (!from || !isRound) return;
    const [radius, d] = [Math.hypot(mx, my), far(from, { x, y })];
    if (d <= radius) return;
    const [towards, open] = [Math.atan2(from.y - y, from.x - x), Math.acos(radius / d)];
    for (const turn of [towards + open, towards - open]) {
      const at = { x: x + radius * Math.cos(turn), y: y + radius * Math.sin(turn) };
      if (has(angleNearest({ x, y }, [mx, my], [nx, ny], at))) catches("touching", at);
    }
    for (const turn of [towards, towards + Math.PI])
      catches("at right angles", { x: x + radius * Math.cos(turn), y: y + radius * Math.sin(turn) });
  }
}

/** Where on a stretch of a line one stands nearest to a point. */
function footOf(p: Point, a: Point, b: Point): Point {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const square = dx * dx + dy * dy;
  const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / square));
  return { x: a.x + t * dx, y: a.y + t * dy };
}

/** Where two stretches of lines cross; null where they do not, run beside each other, or go on from one another as the chords of a curve do. */
function crossing(a: Point, b: Point, c: Point, d: Point): Point | null {
  const [rx, ry, sx, sy] = [b.x - a.x, b.y - a.y, d.x - c.x, d.y - c.y];
  const cross = rx * sy - ry * sx;
  if (Math.abs(cross) <= 1e-12 * Math.hypot(rx, ry) * Math.hypot(sx, sy)) return null;
  const t = ((c.x - a.x) * sy - (c.y - a.y) * sx) / cross;
  const u = ((c.x - a.x) * ry - (c.y - a.y) * rx) / cross;
  const slack = 1e-6;
  const isEnd = (s: number) => Math.abs(s) < slack || Math.abs(s - 1) < slack;
  if (isEnd(t) && isEnd(u)) return null;
  return t >= -slack && t <= 1 + slack && u >= -slack && u <= 1 + slack ? { x: a.x + t * rx, y: a.y + t * ry } : null;
}

/** The angle of an ellipse's point nearest to a point, by Newton's way from the angle the point lies at. */
function angleNearest(centre: Point, [mx, my]: readonly number[], [nx, ny]: readonly number[], p: Point): number {
  const [px, py] = [p.x - centre.x, p.y - centre.y];
  const [major, minor] = [mx! * mx! + my! * my!, nx! * nx! + ny! * ny!];
  // In the ellipse's own frame; its axes stand at right angles to each other.
  const [u, v] = [(px * mx! + py * my!) / Math.sqrt(major), (px * nx! + py * ny!) / Math.sqrt(minor)];
  const [a, b] = [Math.sqrt(major), Math.sqrt(minor)];
  let t = Math.atan2(a * v, b * u);
  if (Math.abs(a - b) < 1e-9 * a) return Math.atan2(v, u);
  for (let i = 0; i < 8; i++) {
    const [c, s] = [Math.cos(t), Math.sin(t)];
    const f = (b * b - a * a) * c * s + a * u * s - b * v * c;
    const g = (b * b - a * a) * (c * c - s * s) + a * u * c + b * v * s;
    if (Math.abs(g) < 1e-30) break;
    t -= f / g;
  }
  return t;
}
