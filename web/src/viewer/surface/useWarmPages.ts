import { useEffect } from "react";
import { isSheet, type Leaf, type PackageItem } from "../../api/types";
import { openPages, warmPages } from "./openPages";

const hasPages = (fileName: string) => fileName.toLowerCase().endsWith(".pdf");

/**
 * Gets the page engine ready while what files hold is still being asked, and has it open the one that is shown once that is known to be drawn
 * from its pages; where none of them has pages it is not wanted.
 */
export function useWarmPages(items: readonly PackageItem[], draft: string, leaf: Leaf | undefined) {
  const isWanted = items.some((i) => hasPages(i.fileName));
  useEffect(() => {
    if (isWanted) warmPages();
  }, [isWanted]);
  const isFile = items.some((i) => i.draft === draft && hasPages(i.fileName));
  const page = isFile && isSheet(leaf) && leaf.frame.surface === "page" ? leaf.position : null;
  useEffect(() => {
    // The leaves of such a file are its pages, in their order; with what others marked, as it is shown first.
    if (page !== null) openPages(`/api/drafts/${draft}/file`).open(page, true);
  }, [draft, page]);
}
