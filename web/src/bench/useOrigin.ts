import { useKept } from "../kept/useKept";
import type { Point } from "../api/types";
import { announce } from "../ui/announce";
import { anchorOf } from "../viewer/shapes";
import type { Lying } from "./lying";

/** What coordinates on a sheet are counted from, as long as the person does not say otherwise. */
export function useOrigin(draft: string, position: number) {
  const kept = useKept<Point | null>(`origin on ${draft}/${position}`, null, "habit");
  return {
    value: kept.value,
    /** Counts from the point that what is picked is about, or from the file's own origin again; says what is missing where neither can be. */
    set: (picked: Lying | undefined): string | null => {
      if (!picked && !kept.value)
        return "Draw and pick what coordinates are to be counted from, such as a point (H); then Shift H.";
      if (picked) kept.set(anchorOf(picked.shape));
      else kept.discard();
      announce(picked ? "Coordinates are counted from here" : "Coordinates are counted from the file’s own origin");
      return null;
    },
  };
}
