import { useEffect, useState } from "react";

/** How long typing rests, in milliseconds, until the server is asked. */
export const PAUSE = 250;

/** A value once it has not changed for a while. What is alike must be the same each time it is given: words, or a kept object. */
export function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), PAUSE);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}
