import { useEffect } from "react";
import { warmPages } from "./pages";

/** Gets the page engine ready while what files hold is still being asked; where none of them has pages it is not wanted. */
export function useWarmPages(fileNames: readonly string[]) {
  const isWanted = fileNames.some((name) => name.toLowerCase().endsWith(".pdf"));
  useEffect(() => {
    if (isWanted) warmPages();
  }, [isWanted]);
}
