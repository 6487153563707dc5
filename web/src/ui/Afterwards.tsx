import { useEffect, useState, type ReactNode } from "react";

/**
 * What is drawn once the page has been seen without it. For what lies about the thing somebody opened: on a slow machine that thing is
 * there half a second sooner.
 * @param meanwhile what keeps its room
 */
export function Afterwards({ meanwhile = null, children }: { meanwhile?: ReactNode; children: () => ReactNode }) {
  const [isTime, setTime] = useState(false);
  // Not as a deferred value: answers that come meanwhile would have it drawn anew from the start, again and again.
  useEffect(() => setTime(true), []);
  return isTime ? children() : meanwhile;
}
