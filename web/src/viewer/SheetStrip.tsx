import { ChevronDown, ChevronLeft, ChevronRight, ChevronUp } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useCommands, type Command } from "../commands/registry";
import { habitOf, keepHabit } from "../ui/habit";
import { SignButton } from "../ui/SignButton";
import { isTable, type Leaf } from "../api/types";

const KEPT = "froe.sheet-strip";

type Props = {
  draft: string;
  sheets: readonly Leaf[] | undefined;
  position: number;
  onPick: (position: number) => void;
};

/** The sheets of a draft that has several, as small pictures under the view; Page Down and Page Up go to the next and the last. */
export function SheetStrip({ draft, sheets, position, onPick }: Props) {
  const [isOpen, setOpen] = useState(() => habitOf(KEPT) !== "closed");
  const picked = useRef<HTMLButtonElement>(null);
  const count = sheets?.length ?? 0;
  useEffect(() => {
    // Some browsers answer with a promise, which would be taken for what undoes the effect.
    void picked.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [position, isOpen]);

  const kind = sheets?.every(isTable) ? "table" : "sheet";
  const goTo = (next: number) => (next >= 0 && next < count ? () => onPick(next) : null);
  // What scrolls by these keys itself keeps them.
  const leftTo = "[data-scrolls]";
  const turning: readonly Command[] = [
    { id: "next-sheet", words: `Next ${kind}`, keys: [{ key: "PageDown" }], leftTo, run: goTo(position + 1) },
    { id: "last-sheet", words: `Last ${kind}`, keys: [{ key: "PageUp" }], leftTo, run: goTo(position - 1) },
  ];
  useCommands("Sheets", null, turning, "part");

  if (!sheets || count < 2) return null;
  const show = (open: boolean) => {
    setOpen(open);
    keepHabit(KEPT, open ? "open" : "closed");
  };
  const one = sheets.find((s) => s.position === position);
  const word = kind;
  return (
    <div className="flex shrink-0 flex-col border-t border-rule bg-ground">
      <div className="flex h-8 items-center gap-1 px-3 text-sm">
        <SignButton words={`Last ${word} (Page Up)`} disabled={position === 0} onClick={() => onPick(position - 1)}>
          <ChevronLeft size={16} />
        </SignButton>
        <span className="tabular-nums">
          {word === "table" ? "Table" : "Sheet"} {position + 1} of {count}
        </span>
        <SignButton
          words={`Next ${word} (Page Down)`}
          disabled={position >= count - 1}
          onClick={() => onPick(position + 1)}
        >
          <ChevronRight size={16} />
        </SignButton>
        {one && one.name !== `Sheet ${position + 1}` && <span className="truncate font-medium">{one.name}</span>}
        <button
          type="button"
          aria-expanded={isOpen}
          className="ml-auto inline-flex min-h-7 items-center gap-1 rounded-[5px] px-2 hover:bg-raised"
          onClick={() => show(!isOpen)}
        >
          {isOpen ? <ChevronDown size={15} /> : <ChevronUp size={15} />} {isOpen ? "Hide" : "Show"} {word}s
        </button>
      </div>
      {isOpen && (
        <div
          role="tablist"
          aria-label={word === "table" ? "Tables" : "Sheets"}
          className="flex gap-2 overflow-x-auto px-3 pb-2"
          onKeyDown={(e) => {
            const step = { ArrowRight: 1, ArrowLeft: -1 }[e.key];
            if (step === undefined || position + step < 0 || position + step >= count) return;
            e.preventDefault();
            onPick(position + step);
            (e.currentTarget.children[position + step] as HTMLElement).focus();
          }}
        >
          {sheets.map((s) => (
            <button
              key={s.position}
              ref={s.position === position ? picked : undefined}
              type="button"
              role="tab"
              tabIndex={s.position === position ? 0 : -1}
              aria-selected={s.position === position}
              title={s.name}
              className={`flex w-[92px] shrink-0 flex-col border bg-raised ${s.position === position ? "border-ink outline-2 outline-ink" : "border-rule hover:border-ink"}`}
              onClick={() => onPick(s.position)}
            >
              <img
                loading="lazy"
                alt=""
                src={`/api/drafts/${draft}/leaves/${s.position}/small`}
                className="h-[58px] w-full bg-paper object-contain"
              />
              <span
                className={`w-full truncate px-1 py-0.5 text-center text-xs ${s.position === position ? "bg-ink text-raised" : ""}`}
              >
                {s.name}
              </span>
            </button>
          ))}
        </div>
      )}
    </div>
  );
}
