import { useEffect } from "react";

/**
 * Where what had the keys goes away with what was done (a note that is added, a filter that is cleared), they go to the name of the
 * place, never to the page's body: the next Tab goes on from there, and the place's own keys work.
 */
export function useFocusKept() {
  useEffect(() => {
    let last: Element | null = null;
    /** What floats over the page and held it: as long as it is there, it keeps the keys. */
    let home: HTMLElement | null = null;
    const seen = (e: FocusEvent) => {
      last = e.target instanceof Element ? e.target : null;
      home = last?.closest<HTMLElement>("[role=dialog]") ?? null;
    };
    const watch = new MutationObserver(() => {
      if (!last || last.isConnected || document.activeElement !== document.body) return;
      last = null;
      const next = home?.isConnected ? home : document.querySelector<HTMLElement>("[data-place-title]");
      next?.focus({ preventScroll: true });
    });
    document.addEventListener("focusin", seen);
    watch.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener("focusin", seen);
      watch.disconnect();
    };
  }, []);
}
