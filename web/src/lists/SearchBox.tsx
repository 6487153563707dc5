import { Search } from "lucide-react";
import { useCallback, useEffect, useRef, useState } from "react";
import { PAUSE } from "../ui/useSettled";
import type { Listing } from "./listing";

/** The words a list is searched for; "/" leads there from anywhere on the page. */
export function SearchBox<Row>({ listing, label, hint }: { listing: Listing<Row>; label: string; hint: string }) {
  const box = useRef<HTMLInputElement>(null);
  const asked = listing.get("search");
  // What is typed and not asked for yet; null while both are the same.
  const [typed, setTyped] = useState<string | null>(null);
  const [own, setOwn] = useState(asked);
  const [was, setWas] = useState(asked);
  if (was !== asked) {
    setWas(asked);
    // A view that was opened, or the way back: what is typed was about another list.
    if (asked !== own) setTyped(null);
  }
  const set = useRef(listing.set);
  useEffect(() => {
    set.current = listing.set;
  });
  const ask = useCallback((words: string) => {
    set.current({ search: words });
    setOwn(words);
    setTyped(null);
  }, []);
  useEffect(() => {
    if (typed === null) return;
    const timer = window.setTimeout(() => ask(typed), PAUSE);
    return () => clearTimeout(timer);
  }, [typed, ask]);
  return (
    <label className="relative">
      <Search size={15} className="absolute top-2 left-2.5 text-soft" />
      <input
        ref={box}
        type="search"
        data-find
        className="field !w-60 !pl-8 max-[700px]:!w-44"
        placeholder={hint}
        aria-label={label}
        value={typed ?? asked}
        onChange={(e) => setTyped(e.target.value)}
        // Before what is pressed next: a filter that is cleared must not come back by itself.
        onBlur={() => typed !== null && ask(typed)}
      />
    </label>
  );
}
