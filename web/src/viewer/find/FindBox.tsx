import { ChevronDown, ChevronUp, MessageSquarePlus, X } from "lucide-react";
import { useEffect, useRef } from "react";
import type { Point } from "../../api/types";
import { useCommands, type Command } from "../../commands/registry";
import { SignButton } from "../../ui/SignButton";
import type { Find, Hit, Scope } from "./useFind";
import { focusSheet } from "../focusSheet";

type Props = {
  find: Find;
  /** Where may be looked, in words. */
  scopes: readonly { scope: Scope; words: string }[];
  /** What a hit's draft is called, where there are several. */
  nameOf?: (draft: string) => string;
  onGo: (hit: Hit) => void;
  /** Begins a note on a place that was found; null where none can be written. */
  onNote?: ((hit: Hit) => void) | null;
  /** The field of the sheet's grid that the words name, and going there; left out where sheets have none. */
  zone?: { of: (words: string) => readonly Point[] | null; onGo: (corners: readonly Point[]) => void };
};

/** Finds words: Enter goes to the next place, with Shift to the last, with Ctrl begins a note there; Escape closes. */
export function FindBox({ find, scopes, nameOf, onGo, onNote, zone }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const { hits, active } = find;
  useEffect(() => {
    if (find.isOpen) input.current?.select();
  }, [find.isOpen]);
  const finding: readonly Command[] = [
    {
      id: "find",
      words: "Find words on the sheets",
      keys: [{ key: "/" }],
      run: () => {
        find.open();
        input.current?.select();
      },
    },
  ];
  useCommands("Words on the sheets", null, finding, "part");
  if (!find.isOpen) return null;
  const field = zone?.of(find.words) ?? null;
  const at = active ? hits.indexOf(active) : -1;
  const go = (hit: Hit | undefined) => {
    if (!hit) return;
    find.setActive(hit);
    onGo(hit);
  };
  const step = (by: number) => {
    if (hits.length > 0) go(hits[(at + by + hits.length) % hits.length]);
  };
  const asked = find.words.trim() !== "";
  // What was found is looked at next.
  const close = () => {
    find.close();
    focusSheet();
  };
  return (
    <section
      aria-label="Find words"
      data-scrolls
      className="absolute top-3 right-3 z-30 flex max-h-[70%] w-80 max-w-[calc(100%-5rem)] flex-col border border-ink bg-raised shadow-lg"
    >
      <div className="flex items-center gap-1 border-b border-rule p-1.5">
        <input
          ref={input}
          autoFocus
          type="search"
          aria-label="Words to find"
          placeholder="Find words on the sheets"
          maxLength={200}
          className="min-h-8 min-w-0 flex-1 border border-rule bg-raised px-2"
          value={find.words}
          onChange={(e) => find.setWords(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) {
              if (active && onNote) onNote(active);
            } else if (e.key === "Enter" && field && hits.length === 0) zone!.onGo(field);
            else if (e.key === "Enter") step(e.shiftKey ? -1 : 1);
            else if (e.key === "Escape") close();
            else return;
            e.preventDefault();
            e.stopPropagation();
          }}
        />
        <SignButton words="The place before (Shift Enter)" onClick={() => step(-1)} disabled={hits.length === 0}>
          <ChevronUp size={16} />
        </SignButton>
        <SignButton words="The next place (Enter)" onClick={() => step(1)} disabled={hits.length === 0}>
          <ChevronDown size={16} />
        </SignButton>
        {onNote && (
          <SignButton
            words="A note on this place (Ctrl Enter)"
            onClick={() => active && onNote(active)}
            disabled={active === null}
          >
            <MessageSquarePlus size={16} />
          </SignButton>
        )}
        <SignButton words="Close finding" onClick={close}>
          <X size={16} />
        </SignButton>
      </div>
      <div className="flex flex-wrap items-center gap-x-3 border-b border-rule px-2 py-1 text-sm">
        {scopes.map((s) => (
          <label key={s.scope} className="inline-flex items-center gap-1.5">
            <input
              type="radio"
              name="find-scope"
              className="accent-spruce"
              checked={find.scope === s.scope}
              onChange={() => find.setScope(s.scope)}
            />
            {s.words}
          </label>
        ))}
      </div>
      <p role="status" className="px-2 py-1 text-sm text-soft">
        {find.error
          ? find.error.message
          : !asked
            ? "Blanks, accents and capitals do not matter."
            : !find.isSettled || (find.isFetching && hits.length === 0)
              ? "Looking …"
              : hits.length === 0
                ? "Not found here."
                : `${at >= 0 ? `${at + 1} of ` : ""}${hits.length}${find.isAll ? "" : " and more"} ${hits.length === 1 ? "place" : "places"}`}
      </p>
      {field && (
        <button
          type="button"
          className="border-t border-rule px-2 py-1 text-left hover:bg-ground"
          onClick={() => zone!.onGo(field)}
        >
          Field {find.words.trim().toUpperCase()} of the sheet
        </button>
      )}
      {hits.length > 0 && (
        <ol className="min-h-0 flex-1 overflow-y-auto border-t border-rule">
          {hits.map((h, i) => (
            <li key={i}>
              <button
                type="button"
                aria-current={h === active}
                className={`flex w-full flex-col items-start border-b border-rule px-2 py-1 text-left ${h === active ? "bg-picked" : "hover:bg-ground"}`}
                onClick={() => go(h)}
              >
                <span className="line-clamp-2 break-words">{h.line}</span>
                {find.scope !== "sheet" && (
                  <span className="text-xs text-soft">
                    {find.scope === "package" && nameOf ? `${nameOf(h.draft)} · ` : ""}
                    {h.leafName}
                  </span>
                )}
              </button>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
