import { isSame, putOn } from "./putOn";
import { useKept } from "./useKept";

/**
 * A change to something that others may change meanwhile, kept like all that is typed: it lies on top of what it is now.
 * @param thing what it belongs to, as in "change of group" and its id
 * @param now what it is now, as the server says
 * @param put how a change is put on what others changed meanwhile
 */
export function useChange<T>(thing: string, now: T, put: (was: T, theirs: T, now: T) => T = putOn) {
  const kept = useKept<{ was: T; theirs: T } | null>(thing, null);
  const begun = kept.value;
  const value = begun ? put(begun.was, begun.theirs, now) : now;
  return {
    value,
    set: (patch: Partial<T>) => kept.set({ was: now, theirs: { ...value, ...patch } }),
    discard: kept.discard,
    /** Whether something is changed that the server does not have. */
    isKept: begun !== null && !isSame(value, now),
    /** Whether somebody else changed it since. */
    isOvertaken: begun !== null && !isSame(begun.was, now),
  };
}
