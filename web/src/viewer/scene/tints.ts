import type { Tint } from "../../api/types";
import type { SceneTree } from "./tree";

/** By what the components of a model are tinted. */
export type TintName = Tint["by"] | "requests";
export const tintWords: Readonly<Record<TintName, string>> = {
  ...{ material: "Material", mass: "Mass", discipline: "Discipline", revision: "Revision", standing: "Standing" },
  ...{ changeOrder: "Change order", requests: "Open requests" },
};

/** Components that are alike, and how they are tinted. */
export type TintedGroup = { value: string; components: readonly number[]; colour: string };

/** Apart in grey too, neighbours most. */
const apart = ["#c9a227", "#3d6b8f", "#9cb48a", "#8c3b2a", "#d9a78c", "#2f6f62", "#b9a9c9", "#5a4a78"];
/** From less to more. */
const rising = ["#dfe8da", "#bcd3c4", "#93b8aa", "#679a8f", "#3c7a71", "#1f5650"];
const UNKNOWN = "#d8d4c8";
const OTHERS = "More of them";

/** The groups with their colours; of many the least are one, for no more colours can be told apart. */
export function tinted({ groups, isOrdered }: Pick<Tint, "groups" | "isOrdered">): TintedGroup[] {
  const known = groups.filter((g) => g.value !== "");
  const unknown = groups.filter((g) => g.value === "");
  const colours = isOrdered ? rising : apart;
  const first = known.length > colours.length ? known.slice(0, colours.length - 1) : known;
  const others = known.slice(first.length).flatMap((g) => g.components);
  // A scale is stretched over what there is of it.
  const colourOf = (i: number) =>
    isOrdered
      ? colours[Math.round((i * (colours.length - 1)) / Math.max(1, first.length - 1))]!
      : colours[i % colours.length]!;
  return [
    ...first.map(({ value, components }, i) => ({ value, components, colour: colourOf(i) })),
    ...(others.length > 0 ? [{ value: OTHERS, components: others, colour: apart[apart.length - 1]! }] : []),
    ...unknown.map(({ components }) => ({ value: "Not known", components, colour: UNKNOWN })),
  ];
}

/** Components with open requests, and those without. @param components that one stands on */
export function byRequests(tree: SceneTree, components: readonly number[]): TintedGroup[] {
  const asked = new Set(components);
  const pieces = tree.components.flatMap((c, i) => (c.part === null ? [] : [i]));
  return [
    { value: "With an open request", components: pieces.filter((c) => asked.has(c)), colour: "#b4441f" },
    { value: "Without", components: pieces.filter((c) => !asked.has(c)), colour: UNKNOWN },
  ].filter((g) => g.components.length > 0);
}
