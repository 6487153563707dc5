import { memo, useLayoutEffect, useMemo, useRef } from "react";
import type { Point, Shape } from "../api/types";
import type { Alike } from "./alike";
import { breadthOf, dashesOf } from "./pen";
import { outlineOf, reachOf } from "./shapes";
import type { Place } from "./sheet";

/** How many are one line of the canvas: a line of very many corners takes long to draw. */
const TOGETHER = 40;
/** Between these, what was made at another zoom is only drawn larger or smaller. */
const STRETCH = 2;

type Piece = { line: Path2D; least: Point; most: Point };

/** Lines of shapes in sheet units from a point on. */
function pieceOf(shapes: readonly Shape[], from: Point, unit: number): Piece {
  const line = new Path2D();
  const [least, most] = [
    { x: Infinity, y: Infinity },
    { x: -Infinity, y: -Infinity },
  ];
  for (const shape of shapes) {
    for (const points of outlineOf(shape, unit).lines)
      for (const [i, p] of points.entries()) {
        if (i === 0) line.moveTo(p.x - from.x, p.y - from.y);
        else line.lineTo(p.x - from.x, p.y - from.y);
      }
    for (const p of reachOf(shape)) {
      [least.x, least.y] = [Math.min(least.x, p.x), Math.min(least.y, p.y)];
      [most.x, most.y] = [Math.max(most.x, p.x), Math.max(most.y, p.y)];
    }
  }
  return { line, least, most };
}

type Props = { alike: Alike; place: Place; unit: number };

/** Markups that look alike, on a canvas of their own that lies over the window. */
export const MarkBatch = memo(function MarkBatch({ alike, place, unit }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const from = useMemo((): Point => reachOf(alike.shapes[0]!)[0], [alike]);
  const made = useRef({ alike, unit });
  if (made.current.alike !== alike || unit > made.current.unit * STRETCH || unit < made.current.unit / STRETCH)
    made.current = { alike, unit };
  const zoom = made.current.unit;
  const pieces = useMemo(() => {
    const all: Piece[] = [];
    for (let i = 0; i < alike.shapes.length; i += TOGETHER)
      all.push(pieceOf(alike.shapes.slice(i, i + TOGETHER), from, zoom));
    return all;
  }, [alike, from, zoom]);
  const isInked = alike.fill === "highlight";
  useLayoutEffect(() => {
    const here = canvas.current!;
    const sharp = window.devicePixelRatio || 1;
    const [width, height] = [here.clientWidth, here.clientHeight];
    const [w, h] = [Math.round(width * sharp), Math.round(height * sharp)];
    if (here.width !== w || here.height !== h) [here.width, here.height] = [w, h];
    const to = here.getContext("2d");
    if (!to) return;
    to.setTransform(1, 0, 0, 1, 0, 0);
    to.clearRect(0, 0, w, h);
    const at = place(from);
    const scale = 1 / unit;
    to.setTransform(sharp * scale, 0, 0, -sharp * scale, sharp * at.x, sharp * at.y);
    const colour = getComputedStyle(here).color;
    to.strokeStyle = to.fillStyle = colour;
    [to.lineCap, to.lineJoin, to.lineWidth] = ["round", "round", breadthOf(alike.pen) * unit];
    to.setLineDash(dashesOf(alike.pen, alike.isCarried).map((d) => d * unit));
    for (const { line, least, most } of pieces) {
      const [a, b] = [place(least), place(most)];
      if (Math.max(a.x, b.x) < 0 || Math.min(a.x, b.x) > width || Math.max(a.y, b.y) < 0 || Math.min(a.y, b.y) > height)
        continue;
      if (isInked || (alike.fill === "tint" && alike.pen.isTinted)) {
        to.globalAlpha = isInked ? 0.28 : 0.06;
        to.fill(line);
      }
      to.globalAlpha = 1;
      if (!isInked) to.stroke(line);
    }
  });
  return (
    <canvas
      ref={canvas}
      aria-hidden
      data-testid="markups-together"
      data-count={alike.shapes.length}
      className={`pointer-events-none absolute inset-0 h-full w-full ${alike.className}`}
      style={{ opacity: alike.isFaint ? 0.45 : 1, mixBlendMode: isInked ? "multiply" : undefined }}
    />
  );
});
