import { useLayoutEffect, useRef, useState } from "react";
import type { Point, Shape } from "../api/types";
import { moved, type DrawnName } from "../viewer/shapes";
import type { Marking } from "../viewer/markup/marking";
import { withTied } from "../viewer/markup/ties";
import type { Mark } from "../viewer/markup/store";
import type { Hand } from "../viewer/sheet";
import type { Catch } from "../viewer/snap/useSnapping";
import { drawings, isExact } from "./drawing";
import { InHand } from "../viewer/tools/inHand";
import { look } from "../viewer/tools/look";
import { areaOf } from "../viewer/tools/measures";
import type { At, Reshaped, Seen, Step, Tool, ToolEvent, ToolState } from "../viewer/tools/tool";

export type ToolName = "look" | DrawnName;
const toolOf = (name: ToolName): Tool => (name === "look" ? look : drawings[name].tool);
/** What can be ended by a key, or taken back a point, while it is drawn. */
const takesPoints = (state: ToolState | null) => state?.tool === "path" || state?.tool === "points";

/** How far an arrow key moves a markup, in CSS pixels; with Shift. */
const STEP = 8;
const FINE = 1;

type Props = {
  tool: ToolName;
  marking: Marking;
  /** What lies on the sheet in view, or on the view of a model as it is now. */
  marksNow: () => readonly Mark[];
  picked: string | null;
  /** What else is picked. */
  others: readonly string[];
  onPick: (ids: readonly string[]) => void;
  onDrawn: (shape: Shape) => void;
  onReshaped: (changes: readonly Reshaped[], words?: string) => void;
  /** What the lines about a point enclose is to be measured. */
  onEncloses: (at: Point, areaOf: (corners: readonly Point[]) => Shape) => void;
  /** A shape is there whose words are to be written. */
  onWrites: (shape: Shape) => void;
  /** True millimetres in a unit of the sheet at a place; null where its scale is not known. */
  factorAt: (p: Point) => number | null;
  /** How high letters are when they are written, in CSS pixels. */
  letters: number;
  /** What coordinates are counted from. */
  origin: Point | null;
  /** Catches points of the file; null where none can be. */
  catching: Catch | null;
};

/** Where the line that is being drawn begins. */
const beginOf = (state: ToolState | null): Point | null =>
  state?.tool === "twoPoint"
    ? state.from
    : state?.tool === "path" || state?.tool === "points"
      ? (state.points[state.points.length - 1] ?? null)
      : null;

/** How far the hand must go, in CSS pixels, until the likeliest is caught again after another was asked for. */
const ANEW = 12;

/** The hand on the sheet: its events go to the tool, and what the tool says is done. */
export function useHand({ tool, marking, marksNow, picked, others, onPick, ...p }: Props): {
  hand: Hand;
  /** What it draws now, for those that show it. */
  inHand: InHand;
  /** The point that was set last, and where the hand is. */
  reach: () => { last: Point | null; towards: Point | null };
} {
  const { onDrawn, onReshaped, onWrites, onEncloses, factorAt, letters, origin, catching } = p;
  // The hand is quicker than the page is drawn: what a tool holds does not wait for that.
  const held = useRef<{ tool: ToolName; state: ToolState | null }>({ tool, state: null });
  const [inHand] = useState(() => new InHand());
  // Another tool shows nothing of what the last was at.
  useLayoutEffect(() => {
    inHand.show(null);
    inHand.catch(null);
  }, [inHand, tool]);
  /** Whether the pointer drew last, rather than the cross. */
  const isPointed = useRef(false);
  const seen: Seen = {
    get marks() {
      return marksNow();
    },
    ...{ picked, others, factorAt, letters, origin: origin ?? undefined },
  };
  /** Which of those that can be caught is wanted, from where the hand was when it was asked for. */
  const wanted = useRef({ which: 0, from: { x: 0, y: 0 } });
  const pointed = useRef<At | null>(null);
  /** The event where it would be, were the hand to catch what is near. */
  const caught = <E extends At>(event: E): E => {
    pointed.current = event;
    const { at, unit, isFree } = event;
    if (Math.hypot(at.x - wanted.current.from.x, at.y - wanted.current.from.y) > ANEW * unit) wanted.current.which = 0;
    const all = catching && !isFree && isExact(tool) ? catching(at, unit, beginOf(stateNow())) : [];
    const next = all.length > 0 ? all[wanted.current.which % all.length]! : null;
    inHand.catch(next);
    return next ? { ...event, at: next.at, free: at, centre: next.centre } : event;
  };
  const stateNow = () => (held.current.tool === tool ? held.current.state : null);
  const send = (event: ToolEvent): Step => {
    const next = toolOf(tool)(stateNow(), event, seen);
    held.current = { tool, state: next.state };
    inHand.show(next);
    const all = picked === null ? [] : [picked, ...others];
    if (next.picks !== undefined) onPick(next.picks === null ? [] : [next.picks]);
    if (next.toggles !== undefined) {
      const [id, kin] = [next.toggles, withTied([next.toggles], marksNow())];
      onPick(all.includes(id) ? all.filter((a) => !kin.includes(a)) : [id, ...all]);
    }
    if (next.picksAll) onPick(next.picksAll);
    if (next.changed) onReshaped(next.changed);
    if (next.drawn) onDrawn(next.drawn);
    if (next.writes) onWrites(next.writes);
    if (next.encloses && "unit" in event) onEncloses(next.encloses, (corners) => areaOf(corners, event.unit, seen));
    return next;
  };
  const hand: Hand = {
    isDrawing: tool !== "look",
    isCatching: catching !== null,
    press: (p) => {
      isPointed.current = true;
      const next = send({ does: "press", ...caught(p) });
      // What was drawn by this press holds the sheet still until it is let go of.
      return next.state !== null || next.drawn !== undefined;
    },
    drag: (p) => void send({ does: "drag", ...caught(p) }),
    release: (p) => void send({ does: "release", ...caught(p) }),
    cancel: () => void send({ does: "cancel" }),
    place: (p) => {
      isPointed.current = false;
      return send({ does: "place", ...caught(p) }).state !== null;
    },
    hover: (p) => {
      isPointed.current = false;
      const at = caught(p);
      if (stateNow()) send({ does: "hover", ...at });
    },
    glide: (p) => {
      isPointed.current = true;
      const at = caught(p);
      if (stateNow()) send({ does: "hover", ...at });
    },
    key: (e, unit) => {
      // The next of what can be caught here.
      if (e.key === "Tab" && isPointed.current && inHand.snapNow() && pointed.current) {
        wanted.current = { which: wanted.current.which + (e.shiftKey ? -1 : 1), from: pointed.current.at };
        if (wanted.current.which < 0) wanted.current.which = 0;
        const at = caught(pointed.current);
        if (stateNow()) send({ does: "hover", ...at });
        return true;
      }
      if (takesPoints(stateNow()) && !e.ctrlKey && !e.metaKey) {
        if (e.key === "Backspace") return (send({ does: "back" }), true);
        if (e.key === "Enter" && isPointed.current) return (send({ does: "end" }), true);
      }
      const own = marksNow().filter((m) => m.mayChange && (m.id === picked || others.includes(m.id)));
      if (own.length === 0 || e.ctrlKey || e.metaKey || e.altKey) return false;
      const far = (e.shiftKey ? FINE : STEP) * unit;
      const ways: Record<string, [number, number]> = {
        ArrowLeft: [-far, 0],
        ArrowRight: [far, 0],
        ArrowUp: [0, far],
        ArrowDown: [0, -far],
      };
      const way = ways[e.key];
      if (way)
        onReshaped(
          own.map((m) => ({ id: m.id, shape: moved(m.shape, ...way) })),
          "moved by key",
        );
      else if (e.key === "Delete" || e.key === "Backspace") {
        onPick([]);
        marking.erase(...own.map((m) => m.id));
      } else return false;
      return true;
    },
  };
  return {
    hand,
    inHand,
    reach: () => ({ last: beginOf(stateNow()), towards: pointed.current?.at ?? null }),
  };
}
