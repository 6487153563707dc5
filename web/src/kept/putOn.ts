/** What can be compared and put together: what JSON says. */
type Part = unknown;

/** Whether two say the same, in whatever order their names stand. */
export function isSame(a: Part, b: Part): boolean {
  if (Object.is(a, b)) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((x, i) => isSame(x, b[i]));
  if (!isNamed(a) || !isNamed(b)) return false;
  const names = new Set([...Object.keys(a), ...Object.keys(b)]);
  return [...names].every((name) => isSame(a[name], b[name]));
}

const isNamed = (x: Part): x is Readonly<Record<string, Part>> =>
  typeof x === "object" && x !== null && !Array.isArray(x);

/**
 * What somebody changed, put on top of what others changed meanwhile: part by part, what they left alone is as it is now. Of a list, what
 * they took out is gone and what they added is there, so that an entry that both changed stands in it twice; of anything else that both
 * changed, theirs holds.
 * @param was what they began with
 * @param theirs what they made of it
 * @param now what it is now
 */
export function putOn<T>(was: T, theirs: T, now: T): T {
  if (isSame(was, theirs)) return now;
  if (isSame(was, now)) return theirs;
  if (Array.isArray(was) && Array.isArray(theirs) && Array.isArray(now)) {
    const has = (list: readonly Part[], x: Part) => list.some((y) => isSame(x, y));
    const added = (theirs as Part[]).filter((x) => !has(was, x) && !has(now, x));
    return [...(now as Part[]).filter((x) => has(theirs, x) || !has(was, x)), ...added] as T;
  }
  if (isNamed(was) && isNamed(theirs) && isNamed(now)) {
    const names = new Set([...Object.keys(now), ...Object.keys(theirs)]);
    return Object.fromEntries([...names].map((name) => [name, putOn(was[name], theirs[name], now[name])])) as T;
  }
  return theirs;
}

/** The same for what only makes sense whole, such as the hours of one day: theirs where they changed it, and else what it is now. */
export const putWhole = <T>(was: T, theirs: T, now: T): T => (isSame(was, theirs) ? now : theirs);
