import type { PackageItem, Verdict } from "../api/types";
import { announce } from "../ui/announce";
import { verdictWords } from "../ui/VerdictMark";
import type { useVerdicts } from "./VerdictBar";
import { judged } from "./verdicts";

/**
 * What the keys for verdicts do with the item in view.
 * @param item null where nobody is asked for a verdict on it
 * @param isLooked whether it has been there to be looked at
 */
export function verdictKeys(
  item: PackageItem | null,
  isLooked: boolean,
  set: ReturnType<typeof useVerdicts>["set"],
  say: (words: string | null) => void,
) {
  if (!item) return { verdict: null, notYet: null };
  return {
    verdict: (verdict: Verdict) => {
      if (!isLooked) return say(`${item.number} has not been shown yet: no verdict was taken. Wait until you see it.`);
      set((was) => judged(was, item, verdict));
      say(null);
      announce(`${item.number}: ${verdictWords[verdict]}`);
    },
    notYet: () => {
      set((was) => judged(was, item, null));
      announce(`${item.number}: no verdict yet`);
    },
  };
}
