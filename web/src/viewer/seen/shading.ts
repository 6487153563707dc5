import { useSyncExternalStore } from "react";

let isOn = false;
const listeners = new Set<() => void>();

/** Shades what was not seen, or shows all of it plain again: on every sheet that is open, until it is pressed again. */
export function toggleShading() {
  isOn = !isOn;
  listeners.forEach((tell) => tell());
}

/** Whether what was not seen is shaded. */
export const useShading = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => isOn,
  );
