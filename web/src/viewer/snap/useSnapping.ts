import { useEffect, useState } from "react";
import { mayHelpAgain } from "../../api/again";
import { Refusal } from "../../api/client";
import type { Point, SheetLeaf } from "../../api/types";
import { fetchFile } from "../surface/fetchFile";
import { Snapping, type Snap } from "./snap";
import { readSource, type SheetSource } from "./source";

/** What is caught near a point of the sheet, the likeliest first. @param from where the line that is drawn begins */
export type Catch = (p: Point, unit: number, from: Point | null) => Snap[];

/** Milliseconds until what a dead line kept away is asked for again. */
const AGAIN = 5000;

type Ready = { of: string; source: SheetSource; snapping: Snapping };

/** Catches points of a sheet's file, once they are wanted and are here; null until then, and on a sheet that has none, such as a scan. */
export function useSnapping(
  draft: string,
  leaf: SheetLeaf | undefined,
  isWanted: boolean,
  layersOn: readonly boolean[] | null,
): Catch | null {
  const of = leaf ? `/api/drafts/${draft}/leaves/${leaf.position}` : "";
  const [ready, setReady] = useState<Ready | null>(null);
  const isHere = ready?.of === of;
  const [tries, setTries] = useState(0);
  useEffect(() => {
    if (!isWanted || of === "" || isHere) return;
    const stop = new AbortController();
    let later: ReturnType<typeof setTimeout> | undefined;
    const get = (form: string) => fetchFile(`${of}/${form}`, () => undefined, stop.signal);
    Promise.all([get("geometry"), get("details")])
      .then(([geometry, details]) => {
        const source = readSource(geometry, details);
        setReady({ of, source, snapping: new Snapping(source) });
      })
      // A sheet of which only a picture is known has nothing to be caught; measuring goes on without. Where it is the line, it comes back.
      .catch((e: unknown) => {
        if (!stop.signal.aborted && e instanceof Refusal && mayHelpAgain(e))
          later = setTimeout(() => setTries((n) => n + 1), AGAIN);
      });
    return () => {
      stop.abort();
      clearTimeout(later);
    };
  }, [of, isWanted, isHere, tries]);
  if (!isWanted || !ready || !isHere) return null;
  const { source, snapping } = ready;
  const [ox, oy] = source.origin;
  const off = (p: Point): Point => ({ x: p.x - ox, y: p.y - oy });
  const isShown = (entity: number) => layersOn?.[source.layerOf(entity)] ?? true;
  return (p, unit, from) =>
    snapping.at(off(p), unit, from && off(from), isShown).map(({ at, kind, centre }) => ({
      kind,
      at: { x: at.x + ox, y: at.y + oy },
      ...(centre && { centre: { x: centre.x + ox, y: centre.y + oy } }),
    }));
}
