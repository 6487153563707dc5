import type { OnView, Shape } from "../api/types";
import type { Eye } from "../viewer/camera/eye";
import { shiftOnto } from "../viewer/scene/onView";
import { moved } from "../viewer/shapes";

/** What was drawn on a view, as an eye sees it on its plane; null where that looks another way. */
export function seenBy(shape: OnView, eye: Eye) {
  const shift = shiftOnto(shape.eye, eye);
  return shift && moved(shape.drawn, shift.dx, shift.dy);
}

/** What was drawn on views of a model, as far as an eye looks the same way. */
export const viewMarks = <T extends { shape: Shape }>(marks: readonly T[], eye: Eye): T[] =>
  marks.flatMap((m) => {
    const shape = m.shape.shape === "onView" ? seenBy(m.shape, eye) : null;
    return shape ? [{ ...m, shape }] : [];
  });
