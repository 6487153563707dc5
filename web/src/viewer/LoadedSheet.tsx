import { useCallback, useEffect, useImperativeHandle, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Point } from "../api/types";
import { Pointer, type PointerHandle } from "./Pointer";
import { idle, type Place, type SheetProps } from "./sheet";
import type { Scale } from "./scale/scale";
import type { Seen } from "./seen/patches";
import { useResting } from "./seen/useResting";
import type { Surface } from "./surface/surface";
import type { At } from "./tools/tool";
import { usePicture } from "./usePicture";
import { useTogether } from "./camera/useTogether";
import { Cross } from "./Cross";
import { boxFrom, firstView, leave, viewAround } from "./firstView";
import { lying } from "./lying";
import { PreparedPicture } from "./PreparedPicture";
import { useCross } from "./useCross";
import { useSize } from "./useSize";
import { zoneOf, type Grid } from "./zone";
import { fromOrigin, offsetPoint, onSheet, windowPoint, type WindowPoint } from "./camera/points";
import { fit, pinched, toOffset, toWindow, zoomAt, type Box, type View } from "./camera/view";

/** Decimals of a place on a sheet: a hundredth of what can be told apart on a large screen. */
const digitsOf = (box: Box) =>
  Math.max(0, Math.min(6, 5 - Math.ceil(Math.log10(Math.max(box.right - box.left, box.top - box.bottom, 1e-9)))));

const sameView = (a: View, b: View) => a.x === b.x && a.y === b.y && a.scale === b.scale;

type Props = SheetProps & {
  position: number;
  sheet: Surface;
  grid: Grid | null;
  scales: readonly Scale[];
  /** What lies beneath its lines. */
  under: (place: Place, on: readonly boolean[]) => React.ReactNode;
  /** For how long a view must rest to be told; null while that is not wanted. */
  restSeconds: number | null;
  onRest: (view: Seen) => void;
  /** Opens the sheet anew. */
  onAgain: () => void;
  /** Whether there is no picture of it to be had meanwhile. */
  isBare?: boolean;
};

/** A sheet that is here. */
export function LoadedSheet({
  sheet,
  draft,
  position,
  hand = idle,
  isPlain = false,
  layersOn,
  overlay,
  handle,
  lookAt,
  together = null,
  corner = null,
  origin = null,
  grid,
  under,
  scales,
  restSeconds,
  onRest,
  onAgain,
  onShown,
  isSecond = false,
  isBare = false,
}: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const lines = useRef<HTMLCanvasElement>(null);
  const words = useRef<HTMLCanvasElement>(null);
  const size = useSize(frame);
  const [view, setView] = useState<View | null>(null);
  const box = useMemo<Box>(() => boxFrom(sheet.extents, sheet.origin), [sheet]);
  const millimetre = useMemo(() => {
    const longer = Math.max(box.right - box.left, box.top - box.bottom);
    return (sheet.unit === "millimetre" || sheet.unit === "unknown") && longer > 100 && longer < 1300
      ? 1
      : longer / 841;
  }, [sheet, box]);
  const on = useMemo(() => layersOn ?? sheet.layers.map((l) => l.isOn), [layersOn, sheet]);

  const sized = size.width > 0;
  // Before it is first seen: its picture, which was there while it was coming, does not go and come again.
  useLayoutEffect(() => {
    if (sized) setView((v) => v ?? firstView(draft, position, { box, origin: sheet.origin, size }));
  }, [sized, size, box, draft, position, sheet]);
  useEffect(() => {
    if (view) leave(draft, position, view, sheet.origin);
  }, [view, draft, position, sheet]);

  useTogether(together, sheet, view, setView);
  const { sharp, fault, blur, drawAnew } = usePicture({
    sheet,
    lines,
    words,
    view,
    setView,
    size,
    on,
    isPlain,
    millimetre,
    onShown,
  });
  // Of a sheet with layers put out, what is on them is not seen.
  const isWhole = sheet.layers.every((l, i) => !l.isOn || on[i] === true);
  useResting({ view, size, origin: sheet.origin, isDrawn: sharp && isWhole, seconds: restSeconds, onRest });

  const pointer = useRef<PointerHandle>(null);
  const lookedAt = useRef<readonly Point[] | null>(null);
  useEffect(() => {
    if (!sized || !lookAt || lookedAt.current === lookAt) return;
    lookedAt.current = lookAt;
    setView(viewAround(lookAt, { box, origin: sheet.origin, size }));
  }, [sized, size, lookAt, sheet, box]);

  const sizeShown = useRef(size);
  useEffect(() => {
    const was = sizeShown.current;
    sizeShown.current = size;
    // Whoever saw all of a sheet sees all of it in another window too.
    setView((v) =>
      v && was.width > 0 && sameView(v, fit(box, was.width, was.height)) ? fit(box, size.width, size.height) : v,
    );
    if (was.width > 0 && (was.width !== size.width || was.height !== size.height)) drawAnew();
  }, [size, drawAnew, box]);

  const zoom = useCallback(
    (factor: number, at = windowPoint(size.width / 2, size.height / 2)) =>
      setView((v) => v && zoomAt(v, factor, at, size)),
    [size],
  );
  const fitAll = useCallback(() => setView(fit(box, size.width, size.height)), [box, size]);
  useImperativeHandle(
    handle,
    () => ({
      fit: fitAll,
      zoom: (factor) => zoom(factor),
      inView: () =>
        view && {
          middle: onSheet(offsetPoint(view.x, view.y), sheet.origin),
          width: size.width / view.scale,
          height: size.height / view.scale,
        },
    }),
    [fitAll, zoom, view, size, sheet],
  );

  useEffect(() => {
    const element = frame.current!;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const r = element.getBoundingClientRect();
      const lines = e.deltaMode === 1 ? 33 : 1;
      zoom(
        Math.exp(-e.deltaY * lines * (e.ctrlKey ? 0.01 : 0.0016)),
        windowPoint(e.clientX - r.left, e.clientY - r.top),
      );
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [zoom]);

  /** What the hand moves since it was pressed: what the tool took hold of, or the sheet. */
  const held = useRef<"tool" | { x: number; y: number; view: View } | null>(null);
  const spotOf = (e: React.PointerEvent): WindowPoint => {
    const r = frame.current!.getBoundingClientRect();
    return windowPoint(e.clientX - r.left, e.clientY - r.top);
  };
  const atOf = (e: React.PointerEvent): At => ({
    at: onSheet(toOffset(view!, spotOf(e), size), sheet.origin),
    unit: 1 / view!.scale,
    isFree: e.altKey,
    isAdding: e.shiftKey,
  });
  /** Fingers on the sheet, where each was when the second came, and the view then. */
  const fingers = useRef(new Map<number, WindowPoint>());
  const pinch = useRef<{ ids: [number, number]; from: [WindowPoint, WindowPoint]; view: View } | null>(null);
  const down = (e: React.PointerEvent) => {
    if (!view || (e.button !== 0 && e.button !== 1) || (e.target as HTMLElement).closest("[data-on-sheet]")) return;
    frame.current!.setPointerCapture(e.pointerId);
    if (e.pointerType === "touch") fingers.current.set(e.pointerId, spotOf(e));
    if (fingers.current.size === 2) {
      // What one finger began is not meant: two move and zoom the sheet.
      lost();
      const [[a, first], [b, second]] = [...fingers.current] as [[number, WindowPoint], [number, WindowPoint]];
      pinch.current = { ids: [a, b], from: [first, second], view };
      return;
    }
    held.current = e.button === 0 && hand.press(atOf(e)) ? "tool" : { x: e.clientX, y: e.clientY, view };
  };
  const move = (e: React.PointerEvent) => {
    const h = held.current;
    if (fingers.current.has(e.pointerId)) fingers.current.set(e.pointerId, spotOf(e));
    if (pinch.current) {
      const { ids, from, view: then } = pinch.current;
      const [a, b] = ids.map((id) => fingers.current.get(id));
      if (a && b) setView(pinched(then, from, [a, b], size));
      return;
    }
    if (view) pointer.current?.at(atOf(e).at);
    if (!h && view && hand.isDrawing) hand.glide(atOf(e));
    if (!h || !view) return;
    if (h === "tool") hand.drag(atOf(e));
    else
      setView({
        ...h.view,
        x: h.view.x - (e.clientX - h.x) / h.view.scale,
        y: h.view.y + (e.clientY - h.y) / h.view.scale,
      });
  };
  const up = (e: React.PointerEvent) => {
    fingers.current.delete(e.pointerId);
    pinch.current = null;
    if (held.current === "tool" && view) hand.release(atOf(e));
    held.current = null;
  };
  const lost = (e?: React.PointerEvent) => {
    if (e) {
      fingers.current.delete(e.pointerId);
      pinch.current = null;
    }
    if (held.current === "tool") hand.cancel();
    held.current = null;
  };

  const cross = useCross(hand);
  const key = (e: React.KeyboardEvent) => {
    const step = (dx: number, dy: number) =>
      setView(
        (v) => v && { ...v, x: v.x + (dx * size.width * 0.1) / v.scale, y: v.y + (dy * size.height * 0.1) / v.scale },
      );
    const acts: Record<string, () => void> = {
      ArrowLeft: () => step(-1, 0),
      ArrowRight: () => step(1, 0),
      ArrowUp: () => step(0, 1),
      ArrowDown: () => step(0, -1),
      "+": () => zoom(1.25),
      "=": () => zoom(1.25),
      "-": () => zoom(0.8),
      "0": fitAll,
    };
    if (e.target !== e.currentTarget || !view) return;
    // What is held is let go of; the place lets go of its tool as well.
    if (e.key === "Escape") {
      held.current = null;
      hand.cancel();
    }
    const window_ = {
      middle: onSheet(offsetPoint(view.x, view.y), sheet.origin),
      unit: 1 / view.scale,
      ...size,
      pan: (dx: number, dy: number) => setView((v) => v && { ...v, x: v.x + dx, y: v.y + dy }),
    };
    if (hand.key(e, 1 / view.scale) || cross.key(e, window_)) {
      e.preventDefault();
      return;
    }
    const act = acts[e.key];
    if (!act || e.ctrlKey || e.metaKey) return;
    e.preventDefault();
    act();
  };

  const window_ = useCallback((p: Point) => toWindow(view!, fromOrigin(p, sheet.origin), size), [view, sheet, size]);
  if (fault)
    return (
      <p role="alert" className="m-auto max-w-sm p-6 text-center">
        {fault}
      </p>
    );
  return (
    <div
      ref={frame}
      id={isSecond ? undefined : "sheet"}
      role="application"
      aria-label={`Sheet ${sheet.name}. Arrow keys move, plus and minus zoom, 0 fits.`}
      tabIndex={0}
      data-sharp={sharp}
      data-scale={view?.scale}
      data-view={view ? `${view.x},${view.y}` : undefined}
      className={`on-paper relative h-full w-full touch-none overflow-hidden select-none ${hand.isDrawing ? "cursor-crosshair" : "cursor-grab active:cursor-grabbing"}`}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={lost}
      onPointerLeave={() => pointer.current?.at(null)}
      data-catching={hand.isCatching}
      onKeyDown={key}
    >
      {isBare && <div className="absolute inset-0 bg-paper" />}
      {view && sized && !isBare && (
        <PreparedPicture
          draft={draft}
          position={position}
          style={lying(box, view, size)}
          isCovered={sharp}
          onLoad={onShown}
        />
      )}
      {view && sized && under(window_, on)}
      <canvas
        ref={lines}
        aria-hidden
        className="pointer-events-none absolute top-0 left-0 origin-top-left will-change-transform"
      />
      <canvas
        ref={words}
        aria-hidden
        className="pointer-events-none absolute top-0 left-0 origin-top-left will-change-transform"
      />
      {blur && (
        <p
          role="status"
          className="absolute top-3 left-1/2 z-20 -translate-x-1/2 border border-ochre bg-raised px-3 py-1 text-ochre"
        >
          {blur}{" "}
          <button type="button" data-on-sheet className="min-h-6 font-semibold underline" onClick={onAgain}>
            Load again
          </button>
        </p>
      )}
      {view && sized && overlay(window_, 1 / view.scale)}
      {cross.cross && view && (
        <Cross at={window_(cross.cross.at)} zone={zoneOf(grid, cross.cross.at)} isSecond={cross.cross.isSecond} />
      )}
      <Pointer unit={sheet.unit} digits={digitsOf(box)} grid={grid} scales={scales} origin={origin} handle={pointer}>
        {corner}
      </Pointer>
    </div>
  );
}
