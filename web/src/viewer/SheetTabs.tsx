import type { Leaf } from "../api/types";

/** The sheets of a draft that has several; over the corner of the view. */
export function SheetTabs({
  sheets,
  position,
  onPick,
}: {
  sheets: readonly Leaf[] | undefined;
  position: number;
  onPick: (position: number) => void;
}) {
  if (!sheets || sheets.length < 2) return null;
  return (
    <div
      role="tablist"
      aria-label="Sheets"
      className="absolute right-3 bottom-2 z-20 flex border border-rule bg-raised"
    >
      {sheets.map((s) => (
        <button
          key={s.position}
          type="button"
          role="tab"
          aria-selected={s.position === position}
          className={`px-3 py-1 ${s.position === position ? "bg-ink text-raised" : ""}`}
          onClick={() => onPick(s.position)}
        >
          {s.name}
        </button>
      ))}
    </div>
  );
}
