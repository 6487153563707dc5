import { useEffect } from "react";

/** Has the browser ask before the page is left, while something would be lost with it. */
export function useLeaving(wouldLose: boolean) {
  useEffect(() => {
    if (!wouldLose) return;
    const ask = (e: BeforeUnloadEvent) => e.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [wouldLose]);
}
