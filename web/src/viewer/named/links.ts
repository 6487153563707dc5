import type { FoundStretch, ItemOnSheet, NamedDocument } from "../../api/types";

/** Places of a leaf that lead somewhere. */
export type Link = {
  key: string;
  /** What a press does, in words. */
  words: string;
  title: string;
  places: readonly FoundStretch[];
  /** Whether what it leads to is picked there. */
  isPicked: boolean;
  onFollow: () => void;
};

/** Documents that a leaf names. */
export const linksTo = (named: readonly NamedDocument[], onFollow: (to: NamedDocument) => void): Link[] =>
  named.map((to) => ({
    key: to.name.document,
    words: `Open ${to.name.number} beside`,
    title: `${to.name.number} ${to.name.label} ${to.name.title}`,
    places: to.places,
    isPicked: false,
    onFollow: () => onFollow(to),
  }));

/** Components of a model that a leaf speaks of. */
export const linksToComponents = (
  items: readonly ItemOnSheet[],
  picked: readonly string[],
  onFollow: (number: string) => void,
): Link[] =>
  items.map(({ number, item, isElsewhere, places }) => ({
    key: number,
    words: `Pick ${number} in the model`,
    title: item
      ? `Item ${item}${isElsewhere ? " of the parts list" : ""}, ${number}: pick it in the model`
      : `${number}: pick it in the model`,
    places,
    isPicked: picked.includes(number),
    onFollow: () => onFollow(number),
  }));
