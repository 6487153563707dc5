import type { PlacedPicture } from "../../api/types";
import type { Place } from "../sheet";

/** How large a picture is in the window, and the CSS matrix that puts its upper left corner, its rows and its columns where they lie. */
export function matrixOf(picture: PlacedPicture, place: Place) {
  const { at, along, up } = picture;
  const from = place(at);
  const right = place({ x: at.x + along.x, y: at.y + along.y });
  const top = place({ x: at.x + up.x, y: at.y + up.y });
  const [ax, ay] = [right.x - from.x, right.y - from.y];
  // Rows of a picture are counted downwards.
  const [dx, dy] = [from.x - top.x, from.y - top.y];
  const width = Math.hypot(ax, ay);
  const height = Math.hypot(dx, dy);
  return { width, height, matrix: [ax / width, ay / width, dx / height, dy / height, top.x, top.y] as const };
}

/** What is shown of a picture, as CSS cuts it; undefined for all of it. */
export const outlineOf = ({ clip }: PlacedPicture) =>
  clip ? `polygon(${clip.map((p) => `${p.x * 100}% ${p.y * 100}%`).join(", ")})` : undefined;
