import type { Point, Shape } from "../../api/types";

/** How far one press turns what has a direction. */
const STEP = Math.PI / 12;

/**
 * A shape turned about its middle: what goes through points by a twelfth of half a circle, what lies along the sheet's sides by a quarter of the whole; anything
 * else has no direction of its own, or is turned by its points, and is null.
 * @param to against the clock, or with it
 */
export function turned(shape: Shape, to: "left" | "right"): Shape | null {
  const sign = to === "left" ? 1 : -1;
  /** Points turned about the mean of all: what is turned back is where it was. */
  const about = (points: readonly Point[]) => {
    const [cos, sin] = [Math.cos(STEP), sign * Math.sin(STEP)];
    const mean = (of: (p: Point) => number) => points.reduce((sum, p) => sum + of(p), 0) / points.length;
    const middle = { x: mean((p) => p.x), y: mean((p) => p.y) };
    return points.map(({ x, y }) => ({
      x: middle.x + cos * (x - middle.x) - sin * (y - middle.y),
      y: middle.y + sin * (x - middle.x) + cos * (y - middle.y),
    }));
  };
  switch (shape.shape) {
    case "cloud":
    case "box":
    case "ellipse":
    case "highlight": {
      const [w, h] = [Math.abs(shape.to.x - shape.from.x) / 2, Math.abs(shape.to.y - shape.from.y) / 2];
      const [x, y] = [(shape.from.x + shape.to.x) / 2, (shape.from.y + shape.to.y) / 2];
      return { ...shape, from: { x: x - h, y: y - w }, to: { x: x + h, y: y + w } };
    }
    case "line":
    case "arrow":
    case "strike": {
      const [from, end] = about([shape.from, shape.to]);
      return { ...shape, from: from!, to: end! };
    }
    case "cloudPath":
    case "polyline":
    case "freehand":
      return { ...shape, points: about(shape.points) };
    default:
      return null;
  }
}
