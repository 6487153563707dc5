/** Milliseconds after which it is done all the same, on a page that has no rest. */
const LONGEST = 2000;

/** Does something when the browser has nothing better to do. */
export const atLeisure = (run: () => void): void =>
  window.requestIdleCallback ? void window.requestIdleCallback(run, { timeout: LONGEST }) : void setTimeout(run, 100);
