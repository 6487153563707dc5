import { useCallback, useRef, useState, type ReactNode } from "react";
import type { Shape } from "../../api/types";
import { idle, type Hand, type Place } from "../sheet";
import type { ToolEvent, ToolState } from "../tools/tool";
import { twoPoint } from "../tools/twoPoint";
import type { Measured } from "./scale";
import { ScaleLine } from "./ScaleLine";

const tool = twoPoint("arrow");
const nothing = { marks: [], picked: null };

const lineOf = (shape: Shape | undefined): Measured | null =>
  shape?.shape === "arrow" ? { from: shape.from, to: shape.to } : null;

export type Scaling = {
  /** Whether the next thing drawn is the line whose length is asked for. */
  isMeasuring: boolean;
  hand: Hand;
  /** The line whose length is asked for. */
  measured: Measured | null;
  start(): void;
  done(): void;
  overlay(place: Place): ReactNode;
};

/** Drawing between two points of a sheet to say how far they are apart; what was drawn goes with the sheet. */
export function useScaling(draft: string, position: number): Scaling {
  const at = `${draft}/${position}`;
  const [isMeasuring, setIsMeasuring] = useState(false);
  const [held, setHeld] = useState<{ at: string; line: Measured; isDrawn: boolean } | null>(null);
  const state = useRef<ToolState | null>(null);
  const line = held?.at === at ? held : null;
  const send = (event: ToolEvent): boolean => {
    const step = tool(state.current, event, nothing);
    state.current = step.state;
    const drawn = lineOf(step.drawn);
    const drawing = lineOf(step.preview?.shape);
    setHeld(drawn ? { at, line: drawn, isDrawn: true } : drawing && { at, line: drawing, isDrawn: false });
    if (drawn) setIsMeasuring(false);
    return step.state !== null;
  };
  const hand: Hand = {
    ...idle,
    isDrawing: true,
    press: (p) => send({ does: "press", ...p }),
    drag: (p) => void send({ does: "drag", ...p }),
    release: (p) => void send({ does: "release", ...p }),
    cancel: () => void send({ does: "cancel" }),
    place: (p) => send({ does: "place", ...p }),
    hover: (p) => void send({ does: "hover", ...p }),
  };
  return {
    isMeasuring,
    hand,
    measured: line?.isDrawn ? line.line : null,
    start: useCallback(() => {
      setHeld(null);
      setIsMeasuring(true);
    }, []),
    done: useCallback(() => {
      setHeld(null);
      setIsMeasuring(false);
    }, []),
    overlay: (place) => line && <ScaleLine line={line.line} place={place} />,
  };
}

/** What to do, while it is to be done. */
export function ScalingLine({ scaling }: { scaling: Scaling }) {
  if (!scaling.isMeasuring) return null;
  return (
    <p
      role="status"
      className="absolute top-3 left-1/2 z-20 max-w-[70%] -translate-x-1/2 border border-ink bg-raised px-3 py-1"
    >
      Draw from one point to another whose distance you know, such as a dimension or a scale bar.{" "}
      <button type="button" className="font-semibold underline" onClick={scaling.done}>
        Stop
      </button>
    </p>
  );
}
