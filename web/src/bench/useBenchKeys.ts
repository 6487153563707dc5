import { useEffect, useLayoutEffect, useRef } from "react";
import type { Verdict } from "../api/types";
import { toggleShading } from "../viewer/seen/shading";
import type { ToolName } from "./useHand";

/** What the keys of the bench do; null where it cannot be done now. */
export type BenchActs = {
  undo: (() => void) | null;
  redo: (() => void) | null;
  verdict: ((verdict: Verdict) => void) | null;
  next: () => void;
  tool: (tool: ToolName) => void;
  /** Whether shapes can be drawn where one looks. */
  canDraw: boolean;
  fit: () => void;
  beside: () => void;
  leave: () => void;
};

const verdicts: Readonly<Record<string, Verdict>> = { "1": "approve", "2": "approveAsNoted", "3": "returnForChanges" };
const tools: Readonly<Record<string, ToolName>> = { c: "cloud", a: "arrow" };

/** Keys that work wherever one is on the bench, but where something is typed or chosen. */
export function useBenchKeys(acts: BenchActs) {
  const now = useRef(acts);
  useLayoutEffect(() => {
    now.current = acts;
  });
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const act = now.current;
      if ((e.target as HTMLElement).closest("input,textarea,select,[role=dialog],[role=menu]") || e.altKey) return;
      const key = e.key.toLowerCase();
      if (e.ctrlKey || e.metaKey) {
        const change = key === "y" || (key === "z" && e.shiftKey) ? act.redo : key === "z" ? act.undo : null;
        if (!change) return;
        e.preventDefault();
        change();
        return;
      }
      const verdict = verdicts[key];
      const tool = tools[key];
      if (verdict) act.verdict?.(verdict);
      else if (tool && act.canDraw) act.tool(tool);
      else if (key === "v") act.tool("look");
      else if (key === "n") act.next();
      else if (key === "f") act.fit();
      else if (key === "b") act.beside();
      else if (key === "s") toggleShading();
      else if (key === "escape") act.leave();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}
