import { useCallback, useSyncExternalStore } from "react";
import { useMe } from "../session/me";
import { atLeisure } from "../ui/atLeisure";
import { Keeping, type Shelf, type Worth } from "./keeping";

function shelf(): Shelf | null {
  try {
    return window.localStorage;
  } catch {
    return null;
  }
}

const keeping = new Keeping(shelf());

/** Hears what other windows of the browser keep, until it is told to end. */
export function hearOthers(): () => void {
  const hear = (e: StorageEvent) => keeping.hear(e.key);
  let isOver = false;
  // The browser takes longer to begin with this than the page to draw a list, so the page is drawn first.
  atLeisure(() => {
    if (isOver) return;
    window.addEventListener("storage", hear);
    // What others kept meanwhile was not heard.
    keeping.hear(null);
  });
  return () => {
    isOver = true;
    window.removeEventListener("storage", hear);
  };
}

/** Whether something that was typed or drawn would be lost with the page: the browser has no room for it, or may not keep it. */
export const useAtRisk = (): boolean => useSyncExternalStore(keeping.subscribe, keeping.isAtRisk);

/** A place where something of a person is kept, for what is no part of a page's picture. */
export type KeptPlace<T> = { get(): T | undefined; set(value: T | undefined): void };

export const keptPlace = <T>(person: string, thing: string): KeptPlace<T> => ({
  get: () => keeping.get(`${person} ${thing}`) as T | undefined,
  set: (value) => keeping.set(`${person} ${thing}`, value),
});

/**
 * Something that is typed or chosen and not stored yet, kept for its person by this browser: it is there again after another place, a
 * reload or an ended session. `discard` when it is stored or thrown away.
 * @param thing what it belongs to, as in "note on" and a draft's id
 * @param worth whether somebody would miss it
 */
export function useKept<T>(thing: string, initial: T, worth: Worth = "work") {
  const full = `${useMe().id} ${thing}`;
  const kept = useSyncExternalStore(keeping.subscribe, () => keeping.get(full)) as T | undefined;
  const set = useCallback(
    (next: T | ((was: T) => T)) => {
      const was = (keeping.get(full) as T | undefined) ?? initial;
      keeping.set(full, typeof next === "function" ? (next as (was: T) => T)(was) : next, worth);
    },
    // What it is at first is the same each time for one thing.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [full, worth],
  );
  const discard = useCallback(() => keeping.set(full, undefined), [full]);
  return { value: kept ?? initial, set, discard, isKept: kept !== undefined };
}
