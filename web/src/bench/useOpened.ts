import { useEffect } from "react";
import { tellOpened } from "./opened";

/**
 * What a person has had open before them: signing asks for it. What is prepared anew is opened anew, for it may show more than it did.
 * @param isThere whether it is known what the draft holds
 */
export function useOpened(draft: string, isThere: boolean, prepared: number | undefined) {
  useEffect(() => {
    if (isThere) tellOpened(draft);
  }, [draft, isThere, prepared]);
}
