import type { RefObject } from "react";
import type { PinEye, Shape } from "../api/types";
import { shiftOnto } from "../viewer/scene/onView";
import { eyeOf } from "../viewer/scene/viewNow";
import { isInSpace, moved } from "../viewer/shapes";
import type { SheetHandle } from "../viewer/sheet";
import type { Reshaped } from "../viewer/tools/tool";
import { viewMarks } from "./viewMarks";

/** What is drawn over a model, between the plane of the eye that looks now and the view that it is kept with. On sheets all stays as it is. */
export class OnViewNow {
  constructor(
    private readonly sheet: RefObject<SheetHandle | null>,
    private readonly isScene: boolean,
    private readonly find: (id: string) => { shape: Shape } | null,
  ) {}

  private eye(): PinEye | null {
    return this.isScene ? (this.sheet.current?.eye?.() ?? null) : null;
  }

  /** Those of the markups that lie where the hand is. */
  readonly marks = <T extends { shape: Shape }>(lying: readonly T[]): readonly T[] => {
    const eye = this.eye();
    return eye ? viewMarks(lying, eyeOf(eye)) : this.isScene ? [] : lying;
  };

  /** A new shape with the view that it was drawn on. */
  readonly kept = (drawn: Shape): Shape => {
    const eye = isInSpace(drawn.shape) ? null : this.eye();
    return eye ? { shape: "onView", eye, drawn } : drawn;
  };

  /** What was changed on the plane of the eye, as it is on the view that it is kept with. */
  readonly changed = (changes: readonly Reshaped[]): Reshaped[] => {
    const eye = this.eye();
    return changes.flatMap(({ id, shape }) => {
      const was = this.find(id)?.shape;
      if (was?.shape !== "onView") return [{ id, shape }];
      const shift = eye && shiftOnto(was.eye, eyeOf(eye));
      return shift ? [{ id, shape: { ...was, drawn: moved(shape, -shift.dx, -shift.dy) } }] : [];
    });
  };
}
