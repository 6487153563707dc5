import { useLayoutEffect, useState } from "react";
import { isPressed, type Key, type Press } from "./keys";

/** Something that can be done in a place, by key, from the list of commands, or by a button. */
export type Command = {
  /** Its name among the commands of the place. */
  id: string;
  /** What it does, as a button would say it. */
  words: string;
  keys?: readonly Key[];
  /** Does it; null where it cannot be done now. */
  run: (() => void) | null;
  /** Whether it is done while somebody types, too: such keys type nothing. */
  evenTyping?: boolean;
  /** What uses these keys itself, as a selector: there they are left to it. */
  leftTo?: string;
  /** Whether the part of the place that has the keys answers to them by itself: here they are only told. */
  isTold?: boolean;
};

/** Whose commands they are: of the whole house, of the place one is in, or of a part of it. */
export type Reach = "house" | "place" | "part";

/** The commands of one place. */
export type CommandSet = {
  place: string;
  reach: Reach;
  /** The part of the page that must have the keys, by its `data-keys`; null where the whole page does. */
  within: string | null;
  commands: readonly Command[];
};

const sets: { readonly now: () => CommandSet }[] = [];

/** The innermost first, in whatever order they came: what is opened at once comes from the inside, what is gone to from the outside. */
export const innermostFirst = (all: readonly CommandSet[]): readonly CommandSet[] =>
  (["part", "place", "house"] as const).flatMap((reach) => all.filter((s) => s.reach === reach).reverse());

/** What can be done now, of the places on the page, the innermost first. */
export const commandSets = (): readonly CommandSet[] => innermostFirst(sets.map((s) => s.now()));

/** Offers commands while a part of the page is shown. */
export function useCommands(
  place: string,
  within: string | null,
  commands: readonly Command[],
  reach: Reach = "place",
) {
  const [held] = useState<{ set: CommandSet }>(() => ({ set: { place, reach, within, commands } }));
  useLayoutEffect(() => {
    held.set = { place, reach, within, commands };
  });
  // What can be seen can be pressed: an effect that waits for the page to be painted would lose the first key.
  useLayoutEffect(() => {
    const one = { now: () => held.set };
    sets.push(one);
    return () => void sets.splice(sets.indexOf(one), 1);
  }, [held]);
}

/** What of an element is asked: whether it, or what it lies in, is of a kind. */
export type Target = { closest(selector: string): unknown };

/** Where keys type, choose or belong to what floats over the page. */
const TYPING =
  "textarea, select, input:not([type=checkbox]):not([type=radio]):not([type=button]), [contenteditable]:not([contenteditable=false])";
const CHOOSING = "[role=menu], [role=listbox], [role=combobox], [role=dialog], [role=alertdialog]";

/**
 * The command that a press asks for.
 * @param target where the keys go; null for the page itself
 * @param isCovered whether a sheet or a dialog lies over the page
 */
export function commandFor(
  all: readonly CommandSet[],
  press: Press,
  target: Target | null,
  isCovered: boolean,
): Command | null {
  const isTyping = target?.closest(TYPING) != null || target?.closest(CHOOSING) != null || isCovered;
  for (const { within, commands } of all) {
    const hasKeys = within === null || target === null || target.closest(`[data-keys~="${within}"]`) != null;
    for (const command of commands)
      if (
        !command.isTold &&
        command.run &&
        (command.evenTyping || (!isTyping && hasKeys)) &&
        !(command.leftTo && target?.closest(command.leftTo)) &&
        command.keys?.some((key) => isPressed(press, key))
      )
        return command;
  }
  return null;
}

/** The one listener for the keys of all commands. */
export function useCommandKeys() {
  useLayoutEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (e.defaultPrevented || e.isComposing) return;
      // The name of a place has the keys for the page as a whole, after one came there.
      const isPage = (t: Element) => t === document.body || t.matches("[data-place-title]");
      const at = e.target instanceof Element && !isPage(e.target) ? e.target : null;
      const isCovered = document.querySelector("[role=dialog], [role=alertdialog]") !== null;
      const command = commandFor(commandSets(), e, at, isCovered);
      if (!command) return;
      e.preventDefault();
      command.run!();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}
