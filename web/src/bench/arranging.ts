import type { Marking } from "../viewer/markup/marking";
import { turned } from "../viewer/shapes/turning";

/** A way to arrange what is picked, as the toolbar, the keys and the list of commands offer it. */
export type ArrangingName = "above" | "beneath" | "left" | "right" | "tie" | "untie";

/** What each does; null where it cannot be done with what is picked. */
export type Arranging = { readonly [Name in ArrangingName]: (() => void) | null };

export const arrangings: {
  readonly [Name in ArrangingName]: { words: string; key: string; ctrl?: true; shift?: boolean };
} = {
  above: { words: "Above all others", key: "Home" },
  beneath: { words: "Beneath all others", key: "End" },
  left: { words: "Turn to the left", key: "[" },
  right: { words: "Turn to the right", key: "]" },
  tie: { words: "Tie together", key: "g", ctrl: true, shift: false },
  untie: { words: "Untie", key: "g", ctrl: true, shift: true },
};

/**
 * How what is picked can be arranged.
 * @param own what is picked of one's own
 */
export function arrangingOf(
  marking: Marking,
  own: readonly string[],
  onPick: (ids: readonly string[]) => void,
): Arranging {
  const marks = own.flatMap((id) => marking.store.find(id) ?? []);
  const turn = (to: "left" | "right") => {
    const shapes = marks.flatMap(({ id, shape }) => {
      const now = turned(shape, to);
      return now ? { id, shape: now } : [];
    });
    return shapes.length > 0 ? () => marking.reshapeAll(shapes, "turned by key") : null;
  };
  const isTied = marks.length > 0 && marks.every((m) => m.tie !== null && m.tie === marks[0]!.tie);
  return {
    above: marks.length > 0 ? () => marking.order(own, "above") : null,
    beneath: marks.length > 0 ? () => marking.order(own, "beneath") : null,
    left: turn("left"),
    right: turn("right"),
    tie: marks.length > 1 && !isTied ? () => marking.tie(own, true) : null,
    untie: marks.some((m) => m.tie !== null)
      ? () => {
          marking.tie(own, false);
          onPick(own);
        }
      : null,
  };
}
