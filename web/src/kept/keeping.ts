/** Where what is kept is put down: a browser's storage, or what does as much. */
export type Shelf = Pick<Storage, "getItem" | "setItem" | "removeItem" | "key" | "length">;

const PREFIX = "froe.kept ";
/** After this nobody comes back to it, in milliseconds. */
const FORGOTTEN = 60 * 86_400_000;

/**
 * What people have typed and not stored yet, by whose it is and what it belongs to: kept by their browser until it is stored or thrown
 * away. A browser that keeps nothing, or no more, loses nothing while the page is open.
 */
export class Keeping {
  private readonly here = new Map<string, unknown>();
  private readonly listeners = new Set<() => void>();

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

  set(thing: string, value: unknown) {
    this.here.set(thing, value);
    try {
      if (value === undefined) this.shelf?.removeItem(PREFIX + thing);
      else this.shelf?.setItem(PREFIX + thing, JSON.stringify({ at: this.now(), value }));
    } catch {
      // The shelf is full: it stays in this page.
    }
    for (const heard of this.listeners) heard();
  }

  subscribe = (heard: () => void): (() => void) => {
    this.listeners.add(heard);
    return () => this.listeners.delete(heard);
  };

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
