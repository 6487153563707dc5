import { useRef, useState } from "react";
import type { Shape } from "../api/types";
import { moved, type DrawnName } from "../viewer/shapes";
import type { Marking } from "../viewer/markup/marking";
import type { Mark } from "../viewer/markup/store";
import type { Hand } from "../viewer/sheet";
import { look } from "../viewer/tools/look";
import type { Seen, Step, Tool, ToolEvent, ToolState } from "../viewer/tools/tool";
import { twoPoint } from "../viewer/tools/twoPoint";

export type ToolName = "look" | DrawnName;
const tools: { readonly [Name in ToolName]: Tool } = {
  look: look,
  cloud: twoPoint("cloud"),
  arrow: twoPoint("arrow"),
};

/** How far an arrow key moves a markup, in CSS pixels; with Shift. */
const STEP = 8;
const FINE = 1;

type Props = {
  tool: ToolName;
  marking: Marking;
  /** What lies on the sheet in view. */
  marks: readonly Mark[];
  picked: string | null;
  onPick: (id: string | null) => void;
  onDrawn: (shape: Shape) => void;
};

/** The hand on the sheet: its events go to the tool, and what the tool says is done. */
export function useHand({ tool, marking, marks, picked, onPick, onDrawn }: Props): {
  hand: Hand;
  preview: Step["preview"];
} {
  // The hand is quicker than the page is drawn: what a tool holds does not wait for that.
  const held = useRef<{ tool: ToolName; state: ToolState | null }>({ tool, state: null });
  const [preview, setPreview] = useState<{ tool: ToolName; what: Step["preview"] }>({ tool, what: undefined });
  const seen: Seen = { marks, picked };
  const send = (event: ToolEvent): Step => {
    const next = tools[tool](held.current.tool === tool ? held.current.state : null, event, seen);
    held.current = { tool, state: next.state };
    setPreview({ tool, what: next.preview });
    if (next.picks !== undefined) onPick(next.picks);
    if (next.changed) marking.reshape(next.changed.id, next.changed.shape);
    if (next.drawn) onDrawn(next.drawn);
    return next;
  };
  const hand: Hand = {
    isDrawing: tool !== "look",
    press: (p) => send({ does: "press", ...p }).state !== null,
    drag: (p) => void send({ does: "drag", ...p }),
    release: (p) => void send({ does: "release", ...p }),
    cancel: () => void send({ does: "cancel" }),
    place: (p) => void send({ does: "place", ...p }),
    hover: (p) => void send({ does: "hover", ...p }),
    key: (e, unit) => {
      const mark = marks.find((m) => m.id === picked);
      if (!mark?.mayChange || e.ctrlKey || e.metaKey || e.altKey) return false;
      const far = (e.shiftKey ? FINE : STEP) * unit;
      const ways: Record<string, [number, number]> = {
        ArrowLeft: [-far, 0],
        ArrowRight: [far, 0],
        ArrowUp: [0, far],
        ArrowDown: [0, -far],
      };
      const way = ways[e.key];
      if (way) marking.reshape(mark.id, moved(mark.shape, ...way), "moved by key");
      else if (e.key === "Delete" || e.key === "Backspace") {
        onPick(null);
        marking.erase(mark.id);
      } else return false;
      return true;
    },
  };
  return { hand, preview: preview.tool === tool ? preview.what : undefined };
}
