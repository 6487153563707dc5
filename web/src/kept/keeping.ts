/** Where what is kept is put down: a browser's storage, or what does as much. */
export type Shelf = Pick<Storage, "getItem" | "setItem" | "removeItem" | "key" | "length">;

const PREFIX = "froe.kept ";
/** What would be missed if it went: what somebody typed or drew, or only how they like to have it. */
export type Worth = "work" | "habit";

/** After this nobody comes back to it, in milliseconds. */
const FORGOTTEN = 60 * 86_400_000;

/**
 * What people have typed and not stored yet, by whose it is and what it belongs to: kept by their browser until it is stored or thrown
 * away. A browser that keeps nothing, or no more, loses nothing while the page is open.
 */
export class Keeping {
  private readonly here = new Map<string, unknown>();
  private readonly listeners = new Set<() => void>();
  /** Work that could not be put down: it goes with the page. */
  private readonly onlyHere = new Set<string>();

  constructor(
    private readonly shelf: Shelf | null,
    private readonly now: () => number = Date.now,
  ) {
    this.sweep();
  }

  /** What is kept; the same object until it is another. Undefined where nothing is. */
  get(thing: string): unknown {
    if (!this.here.has(thing)) this.here.set(thing, this.read(thing));
    return this.here.get(thing);
  }

  set(thing: string, value: unknown, worth: Worth = "work") {
    this.here.set(thing, value);
    const isMissed = worth === "work" && value !== undefined && value !== null && value !== "";
    if (this.putDown(thing, value) || !isMissed) this.onlyHere.delete(thing);
    else this.onlyHere.add(thing);
    this.tell();
  }

  /** Whether something would be lost with the page. */
  isAtRisk = (): boolean => this.onlyHere.size > 0;

  /**
   * Another page of the same browser put something down or took it away: it is so here too.
   * @param key what the browser says has changed; null for everything
   */
  hear(key: string | null) {
    if (key !== null && !key.startsWith(PREFIX)) return;
    const things = key === null ? [...this.here.keys()] : [key.slice(PREFIX.length)];
    for (const thing of things) if (!this.onlyHere.has(thing)) this.here.delete(thing);
    this.tell();
  }

  subscribe = (heard: () => void): (() => void) => {
    this.listeners.add(heard);
    return () => this.listeners.delete(heard);
  };

  private tell() {
    for (const heard of this.listeners) heard();
  }

  private putDown(thing: string, value: unknown): boolean {
    try {
      if (value === undefined) this.shelf?.removeItem(PREFIX + thing);
      else this.shelf?.setItem(PREFIX + thing, JSON.stringify({ at: this.now(), value }));
      return this.shelf !== null;
    } catch {
      // The shelf is full: it stays in this page.
      return false;
    }
  }

  private read(thing: string): unknown {
    try {
      const kept = JSON.parse(this.shelf?.getItem(PREFIX + thing) ?? "null") as { value?: unknown } | null;
      return kept?.value;
    } catch {
      return undefined;
    }
  }

  private sweep() {
    try {
      const keys = Array.from({ length: this.shelf?.length ?? 0 }, (_, i) => this.shelf!.key(i)!);
      for (const key of keys.filter((k) => k.startsWith(PREFIX))) {
        const kept = JSON.parse(this.shelf!.getItem(key) ?? "{}") as { at?: number };
        if (!(typeof kept.at === "number" && kept.at > this.now() - FORGOTTEN)) this.shelf!.removeItem(key);
      }
    } catch {
      // What cannot be read now is swept another time.
    }
  }
}
