import { useEffect } from "react";

type Holder = HTMLElement | SVGElement;

/**
 * Where what had the keys goes away, they never go to the page's body: the next Tab goes on from where they are, and the place's own
 * keys work. A dialog gives them back to what had them when it opened, or to what that was opened from, as a menu is gone by then.
 * Where there is neither, or it went with what was done (a note that is added, a filter that is cleared), they go to the name of the
 * place.
 */
export function useFocusKept() {
  useEffect(() => {
    let last: Holder | null = null;
    /** The dialog that has the keys: as long as it is there, it keeps them. */
    let home: Holder | null = null;
    // Known from the first time that a dialog has the keys, null too: what they come from later may have been opened from it.
    const openers = new WeakMap<Holder, Holder | null>();
    /** What has the keys and, the nearest first, where they go back to from there. */
    const wayBack = (from: Holder | null | undefined): readonly Holder[] => {
      if (!from) return [];
      const dialog = from.closest<Holder>("[role=dialog]");
      const menu = from.closest("[role=menu]")?.getAttribute("aria-labelledby");
      return [from, ...wayBack(dialog ? openers.get(dialog) : menu ? document.getElementById(menu) : null)];
    };
    const seen = (e: FocusEvent) => {
      const next = e.target instanceof HTMLElement || e.target instanceof SVGElement ? e.target : null;
      home = next?.closest<Holder>("[role=dialog]") ?? null;
      if (home && !openers.has(home)) openers.set(home, last);
      last = next;
    };
    const watch = new MutationObserver(() => {
      if (!last || last.isConnected || document.activeElement !== document.body) return;
      const title = document.querySelector<HTMLElement>("[data-place-title]");
      const next = home?.isConnected ? [home] : [...wayBack(last), title];
      last = null;
      // What is gone, disabled or hidden meanwhile takes no focus.
      for (const holder of next) {
        holder?.focus({ preventScroll: true });
        if (document.activeElement !== document.body) return;
      }
    });
    document.addEventListener("focusin", seen);
    watch.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener("focusin", seen);
      watch.disconnect();
    };
  }, []);
}
