import { useImperativeHandle, useRef, type ReactNode, type Ref } from "react";
import type { Point } from "../api/types";
import { scaleAt, type Scale } from "./scale/scale";
import { zoneOf, type Grid } from "./zone";

export type PointerHandle = { at(p: Point | null): void };

const short: Readonly<Record<string, string>> = {
  millimetre: "mm",
  centimetre: "cm",
  metre: "m",
  inch: "in",
  foot: "ft",
  unknown: "unit not stated",
};

type Props = {
  unit: string;
  digits: number;
  grid: Grid | null;
  scales: readonly Scale[];
  /** What coordinates are counted from; null for the file's own origin. */
  origin: Point | null;
  /** What stands beside it. */
  children: ReactNode;
  handle: Ref<PointerHandle>;
};

/** Where the hand is on the sheet; written without drawing the page anew, for it changes with every move. */
export function Pointer({ unit, digits, grid, scales, origin, children, handle }: Props) {
  const words = useRef<HTMLSpanElement>(null);
  const units = useRef<HTMLSpanElement>(null);
  const zone = useRef<HTMLSpanElement>(null);
  const scale = useRef<HTMLSpanElement>(null);
  useImperativeHandle(
    handle,
    () => ({
      at(p) {
        if (!words.current || !zone.current) return;
        // From an origin that somebody has set, true to size where the scale is known.
        const factor = origin && p ? (scaleAt(scales, p)?.millimetres ?? null) : null;
        const from = origin ?? { x: 0, y: 0 };
        const told = (value: number) => (value * (factor ?? 1)).toFixed(digits);
        words.current.textContent = p ? `x ${told(p.x - from.x)}  y ${told(p.y - from.y)}` : "";
        if (units.current) units.current.textContent = factor === null ? (short[unit] ?? unit) : "mm";
        zone.current.textContent = p ? zoneOf(grid, p) : "";
        // Where the whole sheet has one, it stands beside.
        if (scale.current) scale.current.textContent = p ? (scaleAt(scales, p)?.words ?? "") : "";
      },
    }),
    [digits, grid, scales, origin, unit],
  );
  return (
    <div className="absolute right-2 bottom-2 z-10 flex max-w-[calc(100%-16px)] flex-wrap items-stretch justify-end gap-2 *:whitespace-nowrap">
      <p
        className="pointer-events-none flex items-center gap-3 bg-raised/85 px-2 py-0.5 font-mono text-xs whitespace-pre tabular-nums"
        data-testid="pointer"
      >
        <span ref={words} />
        <span ref={units}>{short[unit] ?? unit}</span>
        {origin && <span>from the origin set</span>}
        {scales.some((s) => s.area) && <span ref={scale} />}
        <span ref={zone} className="font-semibold" />
      </p>
      {children}
    </div>
  );
}
