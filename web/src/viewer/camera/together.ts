import type { View } from "./view";

/** How a sheet is looked at, and on what: sheets of the same extents lie alike. */
type Seen = { view: View; extents: string };

/** What tables have for extents: they move with tables alone, by rows, columns and zoom. */
export const TABLE = "table";

/**
 * Sheets that move together. What one does, the others do: on a sheet of the same extents the view is the very same, on another it goes as
 * far and is zoomed as much.
 */
export class Together {
  private readonly sheets = new Map<object, { seen: Seen; move: (view: View) => void }>();

  /** Takes a sheet in, as it is looked at now; it is moved by `move`. */
  join(who: object, seen: Seen, move: (view: View) => void) {
    this.sheets.set(who, { seen, move });
    for (const [other, { seen: theirs }] of this.sheets)
      if (other !== who && theirs.extents === seen.extents) {
        this.sheets.get(who)!.seen = { ...seen, view: theirs.view };
        move(theirs.view);
        return;
      }
  }
  leave(who: object) {
    this.sheets.delete(who);
  }

  /** A sheet is looked at otherwise. */
  moved(who: object, view: View) {
    const mine = this.sheets.get(who);
    if (!mine || same(mine.seen.view, view)) return;
    const was = mine.seen.view;
    mine.seen = { ...mine.seen, view };
    for (const [other, theirs] of this.sheets) {
      if (other === who || (theirs.seen.extents === TABLE) !== (mine.seen.extents === TABLE)) continue;
      const next = theirs.seen.extents === mine.seen.extents ? view : following(theirs.seen.view, was, view);
      theirs.seen = { ...theirs.seen, view: next };
      theirs.move(next);
    }
  }
}

const same = (a: View, b: View) => a.x === b.x && a.y === b.y && a.scale === b.scale;

/** A view that goes as far on the screen as another did, and is zoomed as much. */
export function following(mine: View, was: View, now: View): View {
  const scale = (mine.scale * now.scale) / was.scale;
  return {
    scale,
    x: mine.x + ((now.x - was.x) * now.scale) / scale,
    y: mine.y + ((now.y - was.y) * now.scale) / scale,
  };
}
