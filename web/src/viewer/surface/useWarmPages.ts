import { useEffect } from "react";
import type { PackageItem } from "../../api/types";
import { openPages, warmPages } from "./pages";

const hasPages = (fileName: string) => fileName.toLowerCase().endsWith(".pdf");

/**
 * Gets the page engine ready while what files hold is still being asked, and has it open the one that is shown; where none of them has pages it
 * is not wanted.
 */
export function useWarmPages(items: readonly PackageItem[], shown: PackageItem, position: number) {
  const isWanted = items.some((i) => hasPages(i.fileName));
  useEffect(() => {
    if (isWanted) warmPages();
  }, [isWanted]);
  const draft = hasPages(shown.fileName) ? shown.draft : null;
  useEffect(() => {
    // The leaves of such a file are its pages, in their order; with what others marked, as it is shown first.
    if (draft) openPages(`/api/drafts/${draft}/file`).open(position, true);
  }, [draft, position]);
}
