import { useLayoutEffect, useRef, useState, type ReactNode } from "react";

/** Words somebody wrote, three lines of them until more are asked for. */
export function Clamped({ children }: { children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const [isCut, setIsCut] = useState(false);
  const [isWhole, setIsWhole] = useState(false);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element || isWhole) return;
    const measure = () => setIsCut(element.scrollHeight > element.clientHeight + 1);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [children, isWhole]);
  return (
    <>
      <div ref={box} className={`break-words whitespace-pre-wrap ${isWhole ? "" : "line-clamp-3"}`}>
        {children}
      </div>
      {(isCut || isWhole) && (
        <button
          type="button"
          className="text-sm font-medium text-spruce underline"
          aria-expanded={isWhole}
          onClick={() => setIsWhole(!isWhole)}
        >
          {isWhole ? "Less" : "Read all"}
        </button>
      )}
    </>
  );
}
