import { useEffect, useState } from "react";
import { useLocation } from "react-router";

/** Where one may want to be at once, by the part's id, where the page has it. */
const parts = [
  ["list", "Skip to the list"],
  ["sheet", "Skip to the sheet"],
  ["verdict", "Skip to the verdict"],
] as const;

/** Links that show when the first Tab reaches them, past the places and the bar to what the page is for. */
export function SkipLinks() {
  const place = useLocation().pathname;
  const [has, setHas] = useState(false);
  // Which parts there are is looked at when the keys come here, since they come and go with the page.
  const there = has ? parts.filter(([id]) => document.getElementById(id)) : [];
  useEffect(() => setHas(false), [place]);
  return (
    <nav
      aria-label="Skip"
      className="fixed top-0 left-0 z-[80] flex gap-2 bg-raised p-2 shadow-lg not-focus-within:h-px not-focus-within:w-px not-focus-within:overflow-hidden not-focus-within:p-0 not-focus-within:opacity-0"
      onFocus={() => setHas(true)}
    >
      <a
        href="#main"
        className="min-h-6 px-2 underline"
        onClick={(e) => {
          e.preventDefault();
          document.querySelector<HTMLElement>("main [tabindex], main button, main a, main input")?.focus();
        }}
      >
        Skip to the place
      </a>
      {there.map(([id, words]) => (
        <a
          key={id}
          href={`#${id}`}
          className="min-h-6 px-2 underline"
          onClick={(e) => {
            e.preventDefault();
            const part = document.getElementById(id);
            (part?.querySelector<HTMLElement>("[role=radio], [tabindex='0'], button, a") ?? part)?.focus();
          }}
        >
          {words}
        </a>
      ))}
    </nav>
  );
}
