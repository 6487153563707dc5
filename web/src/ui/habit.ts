/** What this browser remembers of how somebody likes to have it; a browser that may remember nothing has it as at first. */
export function habitOf(name: string): string | null {
  try {
    return localStorage.getItem(name);
  } catch {
    return null;
  }
}

/** Remembers it, or forgets it; where that may not be it stays so while the page is open. */
export function keepHabit(name: string, value: string | null) {
  try {
    if (value === null) localStorage.removeItem(name);
    else localStorage.setItem(name, value);
  } catch {
    // Nothing is lost that somebody made.
  }
}
