import { useEffect } from "react";
import { useKept } from "./useKept";

/** A package or a document that was looked at. */
export type Recent = { to: string; words: string; beside: string };

/** How many are kept. */
const MOST = 8;

/** What the person looked at last in this browser, the latest first. */
export const useRecent = (): readonly Recent[] => useKept<readonly Recent[]>("recent", [], "habit").value;

/** Remembers what is looked at. */
export function useVisit(to: string, words: string, beside: string) {
  const { set } = useKept<readonly Recent[]>("recent", [], "habit");
  useEffect(
    () => set((was) => [{ to, words, beside }, ...was.filter((r) => r.to !== to)].slice(0, MOST)),
    [set, to, words, beside],
  );
}
