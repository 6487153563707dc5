import { useLayoutEffect, useState, type RefObject } from "react";
import type { Size } from "./camera/view";

/** How large an element is, in CSS pixels; nothing before it is known. */
export function useSize(of: RefObject<HTMLElement | null>): Size {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = of.current!;
    const take = () => {
      const { clientWidth: width, clientHeight: height } = element;
      setSize((was) => (was.width === width && was.height === height ? was : { width, height }));
    };
    // At once, so that what hangs on it is there with the first frame.
    take();
    const watch = new ResizeObserver(take);
    watch.observe(element);
    return () => watch.disconnect();
  }, [of]);
  return size;
}
