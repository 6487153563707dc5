import { Search } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { PAUSE } from "../ui/useSettled";
import type { Listing } from "./listing";

/** The words a list is searched for; "/" leads there from anywhere on the page. */
export function SearchBox<Row>({ listing, label, hint }: { listing: Listing<Row>; label: string; hint: string }) {
  const box = useRef<HTMLInputElement>(null);
  const asked = listing.get("search");
  // What is typed and not asked for yet; null while both are the same.
  const [typed, setTyped] = useState<string | null>(null);
  const set = useRef(listing.set);
  useEffect(() => {
    set.current = listing.set;
  });
  useEffect(() => {
    if (typed === null) return;
    const timer = window.setTimeout(() => {
      set.current({ search: typed });
      setTyped(null);
    }, PAUSE);
    return () => clearTimeout(timer);
  }, [typed]);
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
      />
    </label>
  );
}
