/** How components are shown: as usual when they are not named. */
export type Look = {
  hidden: ReadonlySet<number>;
  ghost: ReadonlySet<number>;
  /** Colours that somebody gave them, #rrggbb. */
  colours: ReadonlyMap<number, string>;
};

const sameSets = (a: ReadonlySet<number>, b: ReadonlySet<number>) => a.size === b.size && [...a].every((n) => b.has(n));

/** Whether nothing would be drawn otherwise. */
export const isSameLook = (a: Look, b: Look) =>
  sameSets(a.hidden, b.hidden) &&
  sameSets(a.ghost, b.ghost) &&
  a.colours.size === b.colours.size &&
  [...a.colours].every(([component, colour]) => b.colours.get(component) === colour);
