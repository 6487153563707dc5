import { useCallback, useEffect, useLayoutEffect, useRef, useState, type RefObject } from "react";
import type { Painter } from "./surface/painter";
import type { Surface } from "./surface/surface";
import type { View } from "./camera/view";

/** How far beyond the window the picture reaches on each side, as a share of the window: room to pan before drawing anew. */
const MARGIN = 0.2;
/** A picture that took less than this is drawn anew on every frame. */
const QUICK = 14;

/** The picture's size. Whole pixels on every side, or the browser would blur the lines by half a pixel. */
const withMargin = (size: { width: number; height: number }) =>
  [size.width + 2 * Math.round(size.width * MARGIN), size.height + 2 * Math.round(size.height * MARGIN)] as const;

const layerWord = (on: readonly boolean[]) => on.map(Number).join("");

type Props = {
  sheet: Surface;
  /** Where its lines are drawn, and its words. */
  lines: RefObject<HTMLCanvasElement | null>;
  words: RefObject<HTMLCanvasElement | null>;
  view: View | null;
  setView: React.Dispatch<React.SetStateAction<View | null>>;
  /** Of the window, in CSS pixels. */
  size: { width: number; height: number };
  /** Which layers are shown. */
  on: readonly boolean[];
  /** Whether what others marked on a page before it came is left out. */
  isPlain: boolean;
  /** Units of the sheet in a millimetre of paper. */
  millimetre: number;
  /** Once some picture is there to be looked at. */
  onShown: (() => void) | undefined;
};

/** Draws a sheet as it is looked at: the last picture moves with the hand, and a sharp one comes when the hand rests. */
export function usePicture({ sheet, lines, words, view, setView, size, on, isPlain, millimetre, onShown }: Props) {
  const painter = useRef<Painter | null>(null);
  const pictured = useRef<View | null>(null);
  const viewNow = useRef<View | null>(null);
  const cost = useRef(0);
  const rest = useRef(0);
  const [sharp, setSharp] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  /** What went wrong with the sharp picture; the prepared one is still there. */
  const [blur, setBlur] = useState<string | null>(null);
  const sized = size.width > 0;

  useEffect(() => {
    try {
      painter.current = sheet.painter(lines.current!, setBlur);
    } catch (e) {
      setFault((e as Error).message);
    }
    return () => {
      painter.current?.dispose();
      painter.current = null;
    };
  }, [sheet, lines]);

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
    [size, lines, words],
  );

  const letter = useCallback(
    (wanted: View) => {
      if (!words.current) return;
      const [w, h] = withMargin(size);
      sheet.letter?.(words.current, on, wanted, w, h, window.devicePixelRatio || 1);
    },
    [size, sheet, on, words],
  );

  const shown = useRef(onShown);
  useLayoutEffect(() => {
    shown.current = onShown;
  });
  const paint = useCallback(
    async (wanted: View) => {
      const [w, h] = withMargin(size);
      const from = performance.now();
      const begun = () => {
        letter(wanted);
        pictured.current = wanted;
        // The hand may have moved on meanwhile.
        place(viewNow.current ?? wanted);
      };
      const done = await painter.current?.draw(wanted, w, h, size, window.devicePixelRatio || 1, millimetre, begun);
      if (!done) return;
      cost.current = painter.current?.isCostly ? Infinity : performance.now() - from;
      const now = viewNow.current ?? wanted;
      setSharp(now.scale === wanted.scale && now.x === wanted.x && now.y === wanted.y);
      shown.current?.();
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
    if (was && cost.current < QUICK) void latestPaint.current(view);
    // The first, once the prepared one is seen: a canvas that is drawn on for the first time takes its time.
    else rest.current = window.setTimeout(() => void latestPaint.current(view), was ? painter.current?.rest : 0);
  }, [view, sized, place]);

  // The same picture is never drawn twice over: a large sheet's costs a second.
  const drawAnew = useCallback(() => {
    pictured.current = null;
    setView((v) => v && { ...v });
  }, [setView]);
  const layersShown = useRef(layerWord(sheet.layers.map((l) => l.isOn)));
  useEffect(() => {
    if (layersShown.current === layerWord(on)) return;
    layersShown.current = layerWord(on);
    painter.current?.showLayers(on);
    drawAnew();
  }, [on, drawAnew]);

  const plainShown = useRef(false);
  useEffect(() => {
    if (plainShown.current === isPlain) return;
    plainShown.current = isPlain;
    painter.current?.showMarks(!isPlain);
    drawAnew();
  }, [isPlain, drawAnew]);

  // The browser fetches a web font when it is first used; the texts are drawn again when it is there.
  useEffect(() => {
    void document.fonts.load('500 20px "Barlow Semi Condensed"').then(() => {
      if (pictured.current) letter(pictured.current);
    });
  }, [letter]);

  return { sharp, fault, blur, drawAnew };
}
