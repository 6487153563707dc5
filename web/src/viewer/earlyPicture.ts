import type { SheetLeaf } from "../api/types";
import { boxFrom, firstView } from "./firstView";
import { lying, pictureLook } from "./lying";
import { keepPanes, keptPanes } from "./pane";
import { picturePath } from "./picturePath";

/** What the pane depends on. @param sheets how many sheets the draft has: several stand in a strip below */
const nameOf = (sheets: number) => `${windowSize()}${sheets > 1 ? " strip" : ""}`;
const windowSize = () => `${window.innerWidth} × ${window.innerHeight}`;
/** Milliseconds after which it goes even if no sheet comes in its place. */
const LONGEST = 3000;
/** Milliseconds that it lies behind the page when it has gone: a browser does not count what it cannot find any more as seen. */
const BEHIND = 1000;

let end: (() => void) | null = null;

/** The picture that was shown early goes: the sheet's own is drawn in its place. */
export const endEarly = () => end?.();

/** Keeps where the bench's sheet lies, for the next time that the bench is opened in a window like this. */
export function keepPane(pane: Element, sheets: number): void {
  const { left, top, width, height } = pane.getBoundingClientRect();
  const alike = Object.entries(keptPanes()).filter(([name]) => name.startsWith(windowSize()));
  keepPanes({ ...Object.fromEntries(alike), [nameOf(sheets)]: { left, top, width, height } });
}

/**
 * Shows the prepared picture of a sheet where the bench will have it, while the bench's script is still on its way, if that was seen in
 * a window like this before. Whoever presses anything meanwhile means what they see behind it: it goes.
 * Gives when it has been painted.
 */
export async function showEarly(draft: string, { position, frame }: SheetLeaf, sheets: number): Promise<void> {
  const pane = keptPanes()[nameOf(sheets)];
  if (!pane || end || document.getElementById("root")!.hasChildNodes()) return;
  const { minX, minY, maxX, maxY } = frame.extents;
  const origin = [(minX + maxX) / 2, (minY + maxY) / 2] as const;
  const box = boxFrom([minX, minY, maxX, maxY], origin);
  const size = { width: pane.width, height: pane.height };
  const picture = Object.assign(new Image(), {
    src: picturePath(draft, position),
    alt: "",
    className: `on-paper ${pictureLook}`,
  });
  picture.decoding = "sync";
  Object.assign(picture.style, lying(box, firstView(draft, position, { box, origin, size }), size));
  const element = document.createElement("div");
  element.dataset.early = "";
  element.className = "pointer-events-none fixed overflow-hidden bg-table";
  for (const side of ["left", "top", "width", "height"] as const) element.style[side] = `${pane[side]}px`;
  element.append(picture);
  document.body.append(element);
  const over = new AbortController();
  end = () => {
    element.style.zIndex = "-1";
    setTimeout(() => element.remove(), BEHIND);
    over.abort();
    end = null;
  };
  for (const press of ["pointerdown", "keydown", "wheel", "popstate", "resize"])
    window.addEventListener(press, end, { capture: true, signal: over.signal });
  setTimeout(end, LONGEST);
  await picture.decode();
  await new Promise<void>((painted) => requestAnimationFrame(() => setTimeout(painted)));
}
