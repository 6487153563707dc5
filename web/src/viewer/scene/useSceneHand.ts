import { useEffect, useRef } from "react";
import { windowPoint, type WindowPoint } from "../camera/points";
import { nearer, panned, turned, type Eye, type V3 } from "../camera/eye";

type Hand = {
  frame: React.RefObject<HTMLElement | null>;
  eyeNow: () => Eye;
  move: (eye: Eye, isMoving: boolean) => void;
  /** What lies under a place, to turn about; null for nothing. */
  under: (x: number, y: number) => V3 | null;
  /** A press that moved nothing. */
  press: (x: number, y: number, isMore: boolean) => void;
};

/** A press that went no farther than this is no movement, CSS pixels. */
const STILL = 4;
/** Half a turn takes so many pixels. */
const HALF_TURN = 420;
const STEP = Math.PI / 12;

/** Turns, moves and nears a model by mouse, pen, touchpad and fingers. */
export function useSceneHand({ frame, ...acts }: Hand) {
  const now = useRef(acts);
  useEffect(() => {
    now.current = acts;
  });
  useEffect(() => {
    const element = frame.current!;
    const fingers = new Map<number, WindowPoint>();
    let begun: { at: WindowPoint; about: V3 | null; isPanning: boolean; hasMoved: boolean } | null = null;
    const spotOf = (e: MouseEvent): WindowPoint => {
      const box = element.getBoundingClientRect();
      return windowPoint(e.clientX - box.left, e.clientY - box.top);
    };
    const isBeside = (e: Event) => (e.target as Element).closest("[data-on-sheet]") !== null;
    const down = (e: PointerEvent) => {
      if (isBeside(e)) return;
      element.setPointerCapture(e.pointerId);
      const at = spotOf(e);
      fingers.set(e.pointerId, at);
      const isPanning = e.button === 1 || e.button === 2 || e.shiftKey;
      begun = { at, about: isPanning ? null : now.current.under(at.x, at.y), isPanning, hasMoved: fingers.size > 1 };
      if (e.button === 1) e.preventDefault();
    };
    const moved = (e: PointerEvent) => {
      const was = fingers.get(e.pointerId);
      if (!was || !begun) return;
      const at = spotOf(e);
      const [dx, dy] = [at.x - was.x, at.y - was.y];
      if (!begun.hasMoved && Math.hypot(at.x - begun.at.x, at.y - begun.at.y) < STILL) return;
      begun.hasMoved = true;
      const { eyeNow, move } = now.current;
      const eye = eyeNow();
      const other = [...fingers].find(([id]) => id !== e.pointerId)?.[1];
      fingers.set(e.pointerId, at);
      if (other) {
        const grown =
          Math.max(1, Math.hypot(at.x - other.x, at.y - other.y)) /
          Math.max(1, Math.hypot(was.x - other.x, was.y - other.y));
        const middle = { x: (at.x + other.x) / 2, y: (at.y + other.y) / 2 };
        move(
          nearer(
            panned(eye, dx / 2, dy / 2, element.clientHeight),
            grown,
            middle.x,
            middle.y,
            element.clientWidth,
            element.clientHeight,
          ),
          true,
        );
      } else if (begun.isPanning) move(panned(eye, dx, dy, element.clientHeight), true);
      else move(turned(eye, begun.about ?? eye.target, (-dx / HALF_TURN) * Math.PI, (dy / HALF_TURN) * Math.PI), true);
    };
    const up = (e: PointerEvent) => {
      if (!fingers.delete(e.pointerId) || !begun) return;
      const { hasMoved, isPanning, at } = begun;
      if (fingers.size > 0) return;
      begun = null;
      if (hasMoved) now.current.move(now.current.eyeNow(), false);
      else if (e.type === "pointerup" && (!isPanning || e.shiftKey))
        now.current.press(at.x, at.y, e.shiftKey || e.ctrlKey || e.metaKey);
    };
    const wheel = (e: WheelEvent) => {
      if (isBeside(e)) return;
      e.preventDefault();
      const at = spotOf(e);
      // A pinch on a touchpad comes as small steps with Ctrl; a wheel as large ones.
      const factor = Math.exp(-e.deltaY * (e.ctrlKey ? 0.01 : e.deltaMode === 1 ? 0.04 : 0.0015));
      now.current.move(
        nearer(
          now.current.eyeNow(),
          Math.max(0.2, Math.min(5, factor)),
          at.x,
          at.y,
          element.clientWidth,
          element.clientHeight,
        ),
        true,
      );
    };
    const menu = (e: Event) => {
      if (!isBeside(e)) e.preventDefault();
    };
    element.addEventListener("pointerdown", down);
    element.addEventListener("pointermove", moved);
    element.addEventListener("pointerup", up);
    element.addEventListener("pointercancel", up);
    element.addEventListener("wheel", wheel, { passive: false });
    element.addEventListener("contextmenu", menu);
    return () => {
      element.removeEventListener("pointerdown", down);
      element.removeEventListener("pointermove", moved);
      element.removeEventListener("pointerup", up);
      element.removeEventListener("pointercancel", up);
      element.removeEventListener("wheel", wheel);
      element.removeEventListener("contextmenu", menu);
    };
  }, [frame]);
}

/** The eye after a key, when the model has the keys; null for one that means nothing to it. */
export function eyeAfterKey(
  eye: Eye,
  e: { key: string; shiftKey: boolean },
  width: number,
  height: number,
): Eye | null {
  const way = ({ ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] } as const)[
    e.key as "ArrowLeft"
  ];
  if (way && e.shiftKey) return panned(eye, -way[0] * 60, way[1] * 60, height);
  if (way) return turned(eye, eye.target, way[0] * STEP, way[1] * STEP);
  if (e.key === "+" || e.key === "=") return nearer(eye, 1.25, width / 2, height / 2, width, height);
  if (e.key === "-") return nearer(eye, 0.8, width / 2, height / 2, width, height);
  return null;
}
