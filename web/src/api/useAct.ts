import { useCallback, useEffect, useRef, useState } from "react";
import { Refusal } from "./client";
import { newKey } from "./key";

/**
 * One act of a form or a dialog: one at a time, however often it is pressed, and under one key until it is done, so that the server
 * does it once however often it is sent. Gives whether it is under way, what went wrong in words, and whether it was done last.
 */
export function useAct<Args extends readonly unknown[]>(act: (key: string, ...args: Args) => Promise<unknown>) {
  const now = useRef(act);
  useEffect(() => {
    now.current = act;
  });
  const key = useRef<string | null>(null);
  const isRunning = useRef(false);
  const [isBusy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [isDone, setDone] = useState(false);
  /** Gives whether it was done. */
  const run = useCallback(async (...args: Args): Promise<boolean> => {
    if (isRunning.current) return false;
    isRunning.current = true;
    setBusy(true);
    setFault(null);
    setDone(false);
    try {
      await now.current((key.current ??= newKey()), ...args);
      key.current = null;
      setDone(true);
      return true;
    } catch (e) {
      setFault((e as Error).message);
      // What was refused was asked for on what the page shows: it may be of before somebody else's act.
      if (e instanceof Refusal && e.status === 409) window.dispatchEvent(new Event("froe-refused"));
      return false;
    } finally {
      isRunning.current = false;
      setBusy(false);
    }
  }, []);
  /** Something else will be asked for: what went wrong no longer matters, and the key is another. */
  const forget = useCallback(() => {
    key.current = null;
    setFault(null);
    setDone(false);
  }, []);
  return { run, isBusy, fault, isDone, forget };
}
