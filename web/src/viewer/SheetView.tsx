import {
  useCallback,
  useEffect,
  useImperativeHandle,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
  type Ref,
} from "react";
import type { Point } from "../api/types";
import { drawTexts } from "./lettering";
import { SheetPainter } from "./painter";
import { readPreparedSheet, type PreparedSheet } from "./preparedSheet";
import type { At } from "./tools/tool";
import { fit, toSheet, toWindow, zoomAt, type Box, type View } from "./view";

/** What is done with the hand on the sheet. */
export type Hand = {
  /** Whether something was taken hold of; otherwise the hand moves the sheet. */
  press(at: At): boolean;
  drag(at: At): void;
  release(at: At): void;
  cancel(): void;
  /** Enter, with what lies in the middle of the window. */
  place(at: At): void;
  /** Whether a key was meant for what is picked; otherwise it moves the sheet. */
  key(e: React.KeyboardEvent, unit: number): boolean;
  isDrawing: boolean;
};
export type SheetHandle = { fit(): void; zoom(factor: number): void };
/** Maps a point of the sheet (its own coordinates) to the window. */
export type Place = (p: Point) => { x: number; y: number };

/** Moves the sheet only. */
const idle: Hand = {
  press: () => false,
  drag: () => undefined,
  release: () => undefined,
  cancel: () => undefined,
  place: () => undefined,
  key: () => false,
  isDrawing: false,
};

type Props = {
  draft: string;
  position: number;
  /** What the hand does besides moving the sheet. */
  hand?: Hand;
  layersOn: readonly boolean[] | null;
  onLayers: (layers: { name: string; isOn: boolean }[]) => void;
  /** What lies over the sheet. */
  overlay: (place: Place, unit: number) => ReactNode;
  handle: Ref<SheetHandle>;
  /** Where to go, once the sheet is there; the same place is gone to again when it is given anew. */
  lookAt?: readonly Point[] | null;
};

/** How far beyond the window the picture reaches on each side, as a share of the window: room to pan before drawing anew. */
const MARGIN = 0.2;
/** Milliseconds without movement after which a costly picture is drawn anew. */
const REST = 140;
/** A picture that took less than this is drawn anew on every frame. */
const QUICK = 14;

/** The picture's size. Whole pixels on every side, or the browser would blur the lines by half a pixel. */
const withMargin = (size: { width: number; height: number }) =>
  [size.width + 2 * Math.round(size.width * MARGIN), size.height + 2 * Math.round(size.height * MARGIN)] as const;

const layerWord = (on: readonly boolean[]) => on.map(Number).join("");

/** One sheet that can be panned, zoomed and drawn on. The page never waits for the drawing: the last picture moves with the hand. */
export function SheetView(props: Props) {
  const { draft, position } = props;
  const [sheet, setSheet] = useState<PreparedSheet | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [share, setShare] = useState(0);
  // Whatever the caller gives anew with each of its renders, the sheet is fetched once.
  const onLayers = useRef(props.onLayers);
  useLayoutEffect(() => {
    onLayers.current = props.onLayers;
  });

  useEffect(() => {
    const stop = new AbortController();
    setSheet(null);
    setFault(null);
    setShare(0);
    fetchSheet(`/api/drafts/${draft}/leaves/${position}/geometry`, setShare, stop.signal)
      .then((buffer) => {
        const read = readPreparedSheet(buffer);
        onLayers.current(read.layers);
        setSheet(read);
      })
      .catch((e: Error) => {
        if (!stop.signal.aborted) setFault(e.message);
      });
    return () => stop.abort();
  }, [draft, position]);

  if (fault)
    return (
      <p role="alert" className="m-auto max-w-sm p-6 text-center">
        {fault}
      </p>
    );
  if (!sheet)
    return (
      <div className="m-auto w-56 text-center text-soft" role="status">
        Fetching the sheet …
        <div className="mt-2 h-1 bg-rule">
          <div className="h-1 bg-spruce" style={{ width: `${Math.round(share * 100)}%` }} />
        </div>
      </div>
    );
  return <LoadedSheet key={`${draft}/${position}`} {...props} sheet={sheet} />;
}

async function fetchSheet(url: string, onShare: (share: number) => void, signal: AbortSignal): Promise<ArrayBuffer> {
  const response = await fetch(url, { signal });
  if (!response.ok || !response.body) throw new Error("The sheet could not be fetched. Reload the page to try again.");
  // Of the sheet itself: what travels is compressed.
  const total = Number(response.headers.get("X-Froe-Size") ?? 0);
  const parts: Uint8Array[] = [];
  let size = 0;
  for (const reader = response.body.getReader(); ;) {
    const { done, value } = await reader.read();
    if (done) break;
    parts.push(value);
    size += value.length;
    if (total > 0) onShare(size / total);
  }
  const all = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all.buffer;
}

function LoadedSheet({
  sheet,
  draft,
  position,
  hand = idle,
  layersOn,
  overlay,
  handle,
  lookAt,
}: Props & { sheet: PreparedSheet }) {
  const frame = useRef<HTMLDivElement>(null);
  const lines = useRef<HTMLCanvasElement>(null);
  const words = useRef<HTMLCanvasElement>(null);
  const painter = useRef<SheetPainter | null>(null);
  const pictured = useRef<View | null>(null);
  const viewNow = useRef<View | null>(null);
  const cost = useRef(0);
  const rest = useRef(0);
  const [size, setSize] = useState({ width: 0, height: 0 });
  const [view, setView] = useState<View | null>(null);
  const [sharp, setSharp] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const box = useMemo<Box>(() => {
    const [x0, y0, x1, y1] = sheet.extents;
    const [ox, oy] = sheet.origin;
    return { left: x0 - ox, bottom: y0 - oy, right: x1 - ox, top: y1 - oy };
  }, [sheet]);
  const millimetre = useMemo(() => {
    const longer = Math.max(box.right - box.left, box.top - box.bottom);
    return (sheet.unit === "millimetre" || sheet.unit === "unknown") && longer > 100 && longer < 1300
      ? 1
      : longer / 841;
  }, [sheet, box]);
  const on = useMemo(() => layersOn ?? sheet.layers.map((l) => l.isOn), [layersOn, sheet]);

  useLayoutEffect(() => {
    const element = frame.current!;
    const watch = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);

  useEffect(() => {
    try {
      painter.current = new SheetPainter(lines.current!, sheet);
    } catch (e) {
      setFault((e as Error).message);
    }
    return () => {
      painter.current?.dispose();
      painter.current = null;
    };
  }, [sheet]);

  const sized = size.width > 0;
  useEffect(() => {
    if (sized) setView((v) => v ?? fit(box, size.width, size.height));
  }, [sized, size, box]);

  const lookedAt = useRef<readonly Point[] | null>(null);
  useEffect(() => {
    if (!sized || !lookAt || lookedAt.current === lookAt) return;
    lookedAt.current = lookAt;
    const xs = lookAt.map((p) => p.x - sheet.origin[0]);
    const ys = lookAt.map((p) => p.y - sheet.origin[1]);
    const grow = Math.max(box.right - box.left, box.top - box.bottom) * 0.1;
    const around = {
      left: Math.min(...xs) - grow,
      right: Math.max(...xs) + grow,
      bottom: Math.min(...ys) - grow,
      top: Math.max(...ys) + grow,
    };
    setView(fit(around, size.width, size.height));
  }, [sized, size, lookAt, sheet, box]);

  // The canvases reach beyond the window by the margin and are moved so that their picture fits the present view.
  const place = useCallback(
    (now: View) => {
      const was = pictured.current;
      const [w, h] = withMargin(size);
      const k = was ? now.scale / was.scale : 1;
      const dx = was ? (was.x - now.x) * now.scale : 0;
      const dy = was ? (now.y - was.y) * now.scale : 0;
      for (const canvas of [lines.current!, words.current!]) {
        canvas.style.width = `${w}px`;
        canvas.style.height = `${h}px`;
        canvas.style.transform = `translate(${size.width / 2 - (w * k) / 2 + dx}px, ${size.height / 2 - (h * k) / 2 + dy}px) scale(${k})`;
      }
    },
    [size],
  );

  const letter = useCallback(
    (wanted: View) => {
      if (!words.current) return;
      const [w, h] = withMargin(size);
      drawTexts(words.current, sheet, on, wanted, w, h, window.devicePixelRatio || 1);
    },
    [size, sheet, on],
  );

  const paint = useCallback(
    async (wanted: View) => {
      const [w, h] = withMargin(size);
      const from = performance.now();
      const done = await painter.current?.draw(wanted, w, h, window.devicePixelRatio || 1, millimetre);
      if (!done) return;
      letter(wanted);
      cost.current = performance.now() - from;
      pictured.current = wanted;
      // The hand may have moved on meanwhile.
      const now = viewNow.current ?? wanted;
      place(now);
      setSharp(now.scale === wanted.scale && now.x === wanted.x && now.y === wanted.y);
    },
    [size, millimetre, place, letter],
  );

  const latestPaint = useRef(paint);
  useLayoutEffect(() => {
    latestPaint.current = paint;
  }, [paint]);
  const asked = useRef<View | null>(null);
  useLayoutEffect(() => {
    if (!view || !sized) return;
    viewNow.current = view;
    place(view);
    if (asked.current === view) return;
    asked.current = view;
    const was = pictured.current;
    if (was && was.scale === view.scale && was.x === view.x && was.y === view.y) return;
    setSharp(false);
    clearTimeout(rest.current);
    if (!was || cost.current < QUICK) void latestPaint.current(view);
    else rest.current = window.setTimeout(() => void latestPaint.current(view), REST);
  }, [view, sized, place]);

  // The same picture is never drawn twice over: a large sheet's costs a second.
  const drawAnew = useCallback(() => {
    pictured.current = null;
    setView((v) => v && { ...v });
  }, []);
  const layersShown = useRef(layerWord(sheet.layers.map((l) => l.isOn)));
  useEffect(() => {
    if (layersShown.current === layerWord(on)) return;
    layersShown.current = layerWord(on);
    painter.current?.showLayers(on);
    drawAnew();
  }, [on, drawAnew]);

  const sizeShown = useRef(size);
  useEffect(() => {
    const was = sizeShown.current;
    sizeShown.current = size;
    if (was.width > 0 && (was.width !== size.width || was.height !== size.height)) drawAnew();
  }, [size, drawAnew]);

  // The browser fetches a web font when it is first used; the texts are drawn again when it is there.
  useEffect(() => {
    void document.fonts.load('500 20px "Barlow Semi Condensed"').then(() => {
      if (pictured.current) letter(pictured.current);
    });
  }, [letter]);

  const zoom = useCallback(
    (factor: number, px = size.width / 2, py = size.height / 2) =>
      setView((v) => v && zoomAt(v, factor, px, py, size.width, size.height)),
    [size],
  );
  const fitAll = useCallback(() => setView(fit(box, size.width, size.height)), [box, size]);
  useImperativeHandle(
    handle,
    () => ({
      fit: fitAll,
      zoom: (factor) => zoom(factor),
    }),
    [fitAll, zoom],
  );

  useEffect(() => {
    const element = frame.current!;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const r = element.getBoundingClientRect();
      const lines = e.deltaMode === 1 ? 33 : 1;
      zoom(Math.exp(-e.deltaY * lines * (e.ctrlKey ? 0.01 : 0.0016)), e.clientX - r.left, e.clientY - r.top);
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [zoom]);

  /** What the hand moves since it was pressed: what the tool took hold of, or the sheet. */
  const held = useRef<"tool" | { x: number; y: number; view: View } | null>(null);
  const atOf = (e: React.PointerEvent): At => {
    const r = frame.current!.getBoundingClientRect();
    const p = toSheet(view!, e.clientX - r.left, e.clientY - r.top, size.width, size.height);
    return { at: { x: p.x + sheet.origin[0], y: p.y + sheet.origin[1] }, unit: 1 / view!.scale };
  };
  const down = (e: React.PointerEvent) => {
    if (!view || (e.button !== 0 && e.button !== 1) || (e.target as HTMLElement).closest("[data-on-sheet]")) return;
    frame.current!.setPointerCapture(e.pointerId);
    held.current = e.button === 0 && hand.press(atOf(e)) ? "tool" : { x: e.clientX, y: e.clientY, view };
  };
  const move = (e: React.PointerEvent) => {
    const h = held.current;
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
    if (held.current === "tool" && view) hand.release(atOf(e));
    held.current = null;
  };
  const lost = () => {
    if (held.current === "tool") hand.cancel();
    held.current = null;
  };

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
      Escape: () => {
        held.current = null;
        hand.cancel();
      },
      Enter: () => {
        if (view)
          hand.place({ at: { x: view.x + sheet.origin[0], y: view.y + sheet.origin[1] }, unit: 1 / view.scale });
      },
    };
    if (e.target !== e.currentTarget || !view) return;
    if (hand.key(e, 1 / view.scale)) {
      e.preventDefault();
      return;
    }
    const act = acts[e.key];
    if (!act || e.ctrlKey || e.metaKey) return;
    e.preventDefault();
    act();
  };

  const window_ = useCallback(
    (p: Point) => toWindow(view!, p.x - sheet.origin[0], p.y - sheet.origin[1], size.width, size.height),
    [view, sheet, size],
  );
  const corner = view && toWindow(view, box.left, box.top, size.width, size.height);
  if (fault)
    return (
      <p role="alert" className="m-auto max-w-sm p-6 text-center">
        {fault}
      </p>
    );
  return (
    <div
      ref={frame}
      role="application"
      aria-label={`Sheet ${sheet.name}. Arrow keys move, plus and minus zoom, 0 fits.`}
      tabIndex={0}
      data-sharp={sharp}
      data-scale={view?.scale}
      data-view={view ? `${view.x},${view.y}` : undefined}
      className={`relative h-full w-full touch-none overflow-hidden select-none ${hand.isDrawing ? "cursor-crosshair" : "cursor-grab active:cursor-grabbing"}`}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerCancel={lost}
      onKeyDown={key}
    >
      {corner && view && (
        <img
          src={`/api/drafts/${draft}/leaves/${position}/picture`}
          alt=""
          draggable={false}
          className="absolute top-0 left-0 max-w-none origin-top-left bg-white will-change-transform shadow-[0_1px_2px_#0003,0_6px_22px_#0002]"
          style={{
            width: (box.right - box.left) * view.scale,
            height: (box.top - box.bottom) * view.scale,
            transform: `translate(${corner.x}px, ${corner.y}px)`,
            // Once the sharp picture lies over it, only its paper is wanted.
            objectPosition: sharp ? "-100000px 0" : undefined,
            objectFit: sharp ? "none" : "fill",
          }}
        />
      )}
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
      {view && sized && overlay(window_, 1 / view.scale)}
    </div>
  );
}
