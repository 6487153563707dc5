import type { PreparedSheet } from "./preparedSheet";
import type { View } from "../camera/view";

/** Cap height of the lettering as a share of the em; the same as in Lettering.cs. */
const CAP_HEIGHT = 0.7;
/** Below this many pixels a text is only a grey bar; below a third of it, nothing. */
const LEGIBLE = 2.2;

/** Draws the texts of a sheet for a view onto a canvas of `width` × `height` CSS pixels. */
export function drawTexts(
  canvas: HTMLCanvasElement,
  sheet: PreparedSheet,
  on: readonly boolean[],
  view: View,
  width: number,
  height: number,
  ratio: number,
) {
  const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
  if (canvas.width !== w) canvas.width = w;
  if (canvas.height !== h) canvas.height = h;
  const context = canvas.getContext("2d");
  if (!context) return;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, w, h);
  context.font = '500 100px "Barlow Semi Condensed", sans-serif';
  context.textBaseline = "alphabetic";
  const k = view.scale * ratio;
  const em = 100 * CAP_HEIGHT;
  for (const [words, x, y, alongX, alongY, upX, upY, anchor, rise, entity] of sheet.texts) {
    const [layer, rgb] = sheet.styles[sheet.entityStyle[entity]!]!;
    if (!on[layer]) continue;
    const cap = Math.hypot(upX, upY) * k;
    if (cap < LEGIBLE / 3) continue;
    const px = (x - view.x) * k + w / 2;
    const py = (view.y - y) * k + h / 2;
    const reach = words.length * Math.hypot(alongX, alongY) * k + cap;
    if (px < -reach || py < -reach || px > w + reach || py > h + reach) continue;
    context.setTransform((alongX * k) / em, (-alongY * k) / em, (-upX * k) / em, (upY * k) / em, px, py);
    context.fillStyle = `#${rgb.toString(16).padStart(6, "0")}`;
    const wide = context.measureText(words).width;
    if (cap < LEGIBLE) {
      context.globalAlpha = 0.35;
      context.fillRect(-wide * anchor, (rise - 0.75) * em, wide, em / 2);
      context.globalAlpha = 1;
    } else context.fillText(words, -wide * anchor, rise * em);
  }
}
