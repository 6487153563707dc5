import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { TABLE, type Together } from "../camera/together";
import type { View } from "../camera/view";
import type { TableLayout } from "./layout";

/** Milliseconds in which a table that follows tells nobody: a shorter one ends sooner, and would hold the longer one back. */
const FOLLOWS = 300;

type Scrolling = {
  layout: TableLayout;
  zoom: number;
  setZoom: (zoom: number) => void;
  /** What of the table lies in the window's upper left corner, in pixels at its present zoom. */
  left: number;
  top: number;
  scrollTo: (left: number, top: number) => void;
};

/** Moves a table with others: the same row and the same column come first, at the same zoom. */
export function useTableTogether(together: Together | null, s: Scrolling) {
  const { layout, zoom, setZoom, left, top, scrollTo } = s;
  const [wanted, setWanted] = useState<View | null>(null);
  const me = useRef({});
  const until = useRef(0);
  const view = useMemo(
    () => ({ x: layout.columnShare(left / zoom), y: layout.rowShare(top / zoom), scale: zoom }),
    [layout, left, top, zoom],
  );
  const now = useRef(view);
  useLayoutEffect(() => {
    now.current = view;
  });

  const follow = useCallback(
    (to: View) => {
      until.current = performance.now() + FOLLOWS;
      setZoom(to.scale);
      setWanted({ ...to });
    },
    [setZoom],
  );
  useEffect(() => {
    const who = me.current;
    together?.join(who, { view: now.current, extents: TABLE }, follow);
    return () => together?.leave(who);
  }, [together, follow]);
  useEffect(() => {
    if (performance.now() > until.current) together?.moved(me.current, view);
  }, [together, view]);

  const scroll = useRef(scrollTo);
  useLayoutEffect(() => {
    scroll.current = scrollTo;
  });
  // Once it is drawn at its new zoom there is room to go there.
  useLayoutEffect(() => {
    if (!wanted || wanted.scale !== zoom) return;
    until.current = performance.now() + FOLLOWS;
    scroll.current(layout.leftOf(wanted.x) * zoom, layout.topOf(wanted.y) * zoom);
  }, [wanted, zoom, layout]);
}
