import { useCallback, useEffect, useReducer, useState } from "react";
import { api, Refusal } from "../api/client";
import { planOf, type Plan, type PlanDraft } from "../api/types";
import { useKept } from "../kept/useKept";
import { PlanSaving, type Kept, type Left } from "./saving";

/** The plans one can go back to, the plan as it is, and those one came back from. */
type History = { past: readonly Plan[]; now: Plan; next: readonly Plan[] };
/** How many steps back are kept. */
const MOST = 200;

const asKept = (d: PlanDraft): Kept => ({ version: d.version, isDraft: d.isDraft, plan: planOf(d) });

/** A plan in the editor: what was changed can be undone, and is saved as one goes, kept by the browser until it is. */
export function useEditing(draft: PlanDraft) {
  // With the version it was changed from: what somebody else has saved since is not written over unasked.
  const unsaved = useKept<Left | null>(`plan ${draft.id}`, null);
  const { set: keep, discard } = unsaved;
  const [history, setHistory] = useState<History>(() =>
    unsaved.value
      ? { past: [planOf(draft)], now: unsaved.value.plan, next: [] }
      : { past: [], now: planOf(draft), next: [] },
  );
  const [, look] = useReducer((n: number) => n + 1, 0);
  const [saving] = useState(
    () =>
      new PlanSaving(
        {
          put: async (version, plan) => asKept(await api.put(`/plans/${draft.id}`, { version, plan })),
          get: async () => asKept(await api.get(`/plans/${draft.id}`)),
          isClash: (e) => e instanceof Refusal && e.code === "plan-changed",
          isLost: (e) => !(e instanceof Refusal) || e.status === 0 || e.status >= 500,
          keep,
        },
        asKept(draft),
        look,
        unsaved.value,
      ),
  );
  const plan = history.now;
  useEffect(() => saving.change(plan), [saving, plan]);
  // As it is by then, not as it was drawn: more may have been sent since.
  const { isSettled } = saving;
  useEffect(() => {
    if (saving.isSettled) discard();
    else keep(saving.left);
  }, [saving, isSettled, plan, keep, discard]);
  // Whoever leaves a moment after a change has it saved as well; where that is not sure, closing the window asks.
  useEffect(() => {
    const ask = (e: BeforeUnloadEvent) => {
      if (!saving.isSettled) e.preventDefault();
      void saving.save();
    };
    window.addEventListener("beforeunload", ask);
    return () => {
      window.removeEventListener("beforeunload", ask);
      void saving.save().then((done) => done && discard());
    };
  }, [saving, discard]);
  const change = useCallback(
    (next: Plan) => setHistory((h) => ({ past: [...h.past.slice(1 - MOST), h.now], now: next, next: [] })),
    [],
  );
  const undo = useCallback(
    () =>
      setHistory((h) =>
        h.past.length === 0 ? h : { past: h.past.slice(0, -1), now: h.past.at(-1)!, next: [h.now, ...h.next] },
      ),
    [],
  );
  const redo = useCallback(
    () =>
      setHistory((h) =>
        h.next.length === 0 ? h : { past: [...h.past, h.now], now: h.next[0]!, next: h.next.slice(1) },
      ),
    [],
  );
  return {
    plan,
    change,
    undo: history.past.length > 0 ? undo : null,
    redo: history.next.length > 0 ? redo : null,
    saving,
  };
}
