import { useLayoutEffect, useRef } from "react";
import type { Point, SheetLeaf } from "../api/types";
import { endEarly } from "./earlyPicture";
import { boxFrom, firstView, viewAround } from "./firstView";
import { lying } from "./lying";
import { PreparedPicture } from "./PreparedPicture";

type Props = {
  draft: string;
  leaf: SheetLeaf;
  /** Where to go, as the sheet will when it is here. */
  lookAt: readonly Point[] | null | undefined;
  /** How much of it has come, from 0 to 1. */
  share: number;
  /** Once its picture is there to be looked at. */
  onShown: (() => void) | undefined;
  /** Where it lies, whenever that is known anew. */
  onLaid: ((pane: Element) => void) | undefined;
};

/** A sheet that is being fetched: its prepared picture, as it will lie there, and how far it has come. */
export function ComingSheet({ draft, leaf, lookAt, share, onShown, onLaid }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const picture = useRef<HTMLImageElement>(null);
  const laid = useRef(onLaid);
  useLayoutEffect(() => {
    laid.current = onLaid;
  });
  const { position } = leaf;
  const { minX, minY, maxX, maxY } = leaf.frame.extents;
  // By hand: a size that is kept as state would have the page drawn twice, and all that can wait done, before it is first seen.
  useLayoutEffect(() => {
    const element = frame.current!;
    const origin = [(minX + maxX) / 2, (minY + maxY) / 2] as const;
    const box = boxFrom([minX, minY, maxX, maxY], origin);
    const lay = () => {
      const look = { box, origin, size: { width: element.clientWidth, height: element.clientHeight } };
      const view = lookAt ? viewAround(lookAt, look) : firstView(draft, position, look);
      if (look.size.width === 0) return;
      Object.assign(picture.current!.style, lying(box, view, look.size));
      laid.current?.(element);
    };
    lay();
    endEarly();
    const watch = new ResizeObserver(lay);
    watch.observe(element);
    return () => watch.disconnect();
  }, [draft, position, minX, minY, maxX, maxY, lookAt]);
  return (
    <div ref={frame} className="on-paper relative h-full w-full overflow-hidden select-none">
      <PreparedPicture ref={picture} draft={draft} position={position} onLoad={onShown} />
      <div
        role="status"
        className="waiting absolute top-3 left-1/2 z-20 w-56 -translate-x-1/2 border border-rule bg-raised px-3 py-1.5 text-center text-soft"
      >
        Fetching the sheet …
        <div className="mt-1 h-1 bg-rule">
          <div className="h-1 bg-spruce" style={{ width: `${Math.round(share * 100)}%` }} />
        </div>
      </div>
    </div>
  );
}
