import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

/** Runs a change against the server: its fault in words, and a sign that it was kept. */
export function useKeep() {
  const client = useQueryClient();
  const [fault, setFault] = useState<string | null>(null);
  const [kept, setKept] = useState(false);
  const keep = async <T>(work: () => Promise<T>): Promise<T | undefined> => {
    setFault(null);
    setKept(false);
    try {
      const done = await work();
      await client.invalidateQueries();
      setKept(true);
      return done;
    } catch (e) {
      setFault((e as Error).message);
      return undefined;
    }
  };
  return { keep, fault, kept };
}
