import { useEffect } from "react";
import type { Eye } from "../camera/eye";
import type { EyeNow } from "./eyeNow";
import type { SectionPlane } from "./sections";
import type { Shown } from "./useShown";

type Left = { eye: Eye; shown: Shown; sections: readonly SectionPlane[] };

/** Where each model was left, as long as the page is open. */
const left = new Map<string, Left>();

/** Where a model was left, if it was open before. */
export const leftAt = (model: string): Left | undefined => left.get(model);

/** Remembers where a model is left. */
export function useLeft(model: string, eyes: EyeNow, shown: Shown, sections: readonly SectionPlane[]) {
  useEffect(() => {
    const keep = () => {
      const eye = eyes.now();
      if (eye) left.set(model, { eye, shown, sections });
    };
    keep();
    return eyes.subscribe(keep);
  }, [model, eyes, shown, sections]);
}
