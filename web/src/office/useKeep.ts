import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef } from "react";
import { useAct } from "../api/useAct";

/** Runs a change against the server, one at a time and once under a key: its fault in words, and a sign that it was kept. */
export function useKeep() {
  const client = useQueryClient();
  const done = useRef<unknown>(undefined);
  const { run, isBusy, fault, isDone } = useAct(async (key, work: (key: string) => Promise<unknown>) => {
    done.current = await work(key);
    await client.invalidateQueries();
  });
  /** Gives what came of it; undefined when it was not done. */
  const keep = useCallback(
    async <T>(work: (key: string) => Promise<T>): Promise<T | undefined> =>
      (await run(work)) ? (done.current as T) : undefined,
    [run],
  );
  return { keep, fault, kept: isDone, isBusy };
}
