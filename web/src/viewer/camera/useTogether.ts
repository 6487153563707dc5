import { useEffect, useRef } from "react";
import type { Surface } from "../surface/surface";
import type { Together } from "./together";
import type { View } from "./view";

/** Moves a sheet with others: in its own coordinates, which the two may share, not from its origin. */
export function useTogether(together: Together | null, sheet: Surface, view: View | null, setView: (v: View) => void) {
  const me = useRef({});
  const now = useRef(view);
  useEffect(() => {
    now.current = view;
  });
  const isSeen = view !== null;
  const [ox, oy] = sheet.origin;
  useEffect(() => {
    const who = me.current;
    const seen = now.current;
    if (!together || !isSeen || !seen) return;
    together.join(
      who,
      { view: { ...seen, x: seen.x + ox, y: seen.y + oy }, extents: sheet.extents.map((n) => n.toFixed(3)).join() },
      (next) => setView({ ...next, x: next.x - ox, y: next.y - oy }),
    );
    return () => together.leave(who);
  }, [together, isSeen, sheet, ox, oy, setView]);
  useEffect(() => {
    if (view) together?.moved(me.current, { ...view, x: view.x + ox, y: view.y + oy });
  }, [view, together, ox, oy]);
}
