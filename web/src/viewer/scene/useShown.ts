import { useState } from "react";
import type { SceneTree } from "./tree";

/** How the components of a model are shown. */
export type Shown = {
  hidden: ReadonlySet<number>;
  ghost: ReadonlySet<number>;
  /** Colours that somebody gave, #rrggbb. */
  colours: ReadonlyMap<number, string>;
  /** How far the model is taken apart: 0 whole, 1 by as much again as its components lie away from the middle. */
  apart: number;
};

export const asUsual: Shown = { hidden: new Set(), ghost: new Set(), colours: new Map(), apart: 0 };

/** What is done to how components are shown. */
export function useShown(tree: SceneTree, begun: Shown) {
  const [shown, set] = useState<Shown>(begun);
  const pieces = () => tree.components.flatMap((c, i) => (c.part === null ? [] : [i]));
  return {
    ...shown,
    now: shown,
    set,
    isUsual: shown.hidden.size + shown.ghost.size + shown.colours.size === 0 && shown.apart === 0,
    hide: (components: readonly number[], isHidden: boolean) => {
      const those = new Set(components);
      set((was) => ({
        ...was,
        hidden: new Set(isHidden ? [...was.hidden, ...those] : [...was.hidden].filter((c) => !those.has(c))),
      }));
    },
    showAll: () => set(asUsual),
    isolate: (components: readonly number[], rest: "hidden" | "ghost") => {
      const those = new Set(components);
      const others = new Set(pieces().filter((c) => !those.has(c)));
      set((was) => ({ ...was, hidden: asUsual.hidden, ghost: asUsual.ghost, [rest]: others }));
    },
    paint: (components: readonly number[], colour: string | null) =>
      set((was) => {
        const colours = new Map(was.colours);
        for (const c of components) {
          if (colour) colours.set(c, colour);
          else colours.delete(c);
        }
        return { ...was, colours };
      }),
    setApart: (apart: number) => set((was) => ({ ...was, apart })),
  };
}

/** Colours that components can be given: apart in grey too, and none that a picked one has. */
export const paints = [
  ["#c9a227", "Ochre"],
  ["#8c3b2a", "Rust"],
  ["#3d6b8f", "Blue"],
  ["#5f7f3a", "Moss"],
  ["#7a5a8c", "Heather"],
  ["#e6e2d6", "Chalk"],
] as const;
