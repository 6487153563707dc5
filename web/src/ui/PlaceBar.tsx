import { useEffect, useRef, type ReactNode } from "react";
import { namePlace } from "./placeTitle";

/** A name of so many letters is never cut: it takes no more room than what is left of a longer one. */
const SHORT = 8;

type Props = {
  title: ReactNode;
  /** The title in words, where it is more than words. */
  name?: string;
  beside?: ReactNode;
  children?: ReactNode;
};

/** The bar over a place: its name and what can be done there. */
export function PlaceBar({ title, name, beside, children }: Props) {
  const words = name ?? (typeof title === "string" ? title : "");
  useEffect(() => namePlace(words), [words]);
  const heading = useRef<HTMLHeadingElement>(null);
  // Whoever comes from another place is here with the keys too; where something has them already, it keeps them.
  useEffect(() => {
    if (document.activeElement === document.body || document.activeElement === null)
      heading.current?.focus({ preventScroll: true });
  }, []);
  return (
    // A long name is cut short; what can be done keeps its room, and below a width goes into a second line.
    <header className="flex min-h-[46px] shrink-0 items-center gap-3 border-b border-rule px-4 max-[1100px]:flex-wrap max-[1100px]:py-1.5 [&>:not(h1,label)]:shrink-0">
      <h1
        ref={heading}
        tabIndex={-1}
        data-place-title
        className={`${words.length > SHORT ? "min-w-16" : "shrink-0"} truncate text-lg font-semibold outline-none max-[1100px]:max-w-full`}
        title={words}
      >
        {title}
      </h1>
      <span className="shrink-0 text-soft">{beside}</span>
      <span className="flex-1" />
      {children}
    </header>
  );
}
