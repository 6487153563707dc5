import type { DocumentRow } from "../api/types";
import { Button, Empty, StandingTag } from "../ui/kit";

/** The sender's documents in work, to pick those of the package; what is picked stays in sight whatever is searched for. */
export function DocumentPicker({
  rows,
  picked,
  known,
  words,
  onWords,
  isLoaded,
  onMore,
  onToggle,
}: {
  rows: readonly DocumentRow[];
  picked: readonly string[];
  known: ReadonlyMap<string, DocumentRow>;
  words: string;
  onWords: (words: string) => void;
  isLoaded: boolean;
  onMore: (() => void) | null;
  onToggle: (id: string) => void;
}) {
  const hidden = picked.flatMap((id) => (rows.some((d) => d.id === id) ? [] : (known.get(id) ?? [])));
  const shown = [...hidden, ...rows];
  const many = onMore !== null || rows.length > 8 || words !== "";
  return (
    <>
      {many && (
        <div className="mb-2 flex items-center gap-3">
          <input
            type="search"
            className="field !w-72"
            aria-label="Find among your documents in work"
            placeholder="Find a number or a title"
            value={words}
            onChange={(e) => onWords(e.target.value)}
          />
          <span className="text-soft">{picked.length === 0 ? "none picked" : `${picked.length} picked`}</span>
        </div>
      )}
      {isLoaded && shown.length === 0 && (
        <Empty title={words ? `None of yours in work matches “${words}”` : "No document of yours is in work"}>
          {words
            ? "Look for a part of a number or a title."
            : "Register one, or upload the next draft of one, in the register."}
        </Empty>
      )}
      {shown.length > 0 && (
        <ul className="mb-6 max-h-[420px] overflow-y-auto border border-rule bg-raised">
          {shown.map((d) => (
            <li key={d.id} className="border-t border-rule first:border-t-0">
              <label className="flex cursor-pointer items-center gap-3 px-3 py-1.5 hover:bg-picked">
                <input
                  type="checkbox"
                  className="h-4 w-4 accent-spruce"
                  checked={picked.includes(d.id)}
                  onChange={() => onToggle(d.id)}
                />
                <img
                  src={`/api/drafts/${d.draft}/leaves/0/small`}
                  alt=""
                  className="h-[38px] w-[54px] border border-rule bg-paper object-contain"
                />
                <span className="font-mono text-sm whitespace-nowrap">{d.number}</span>
                <span className="font-mono text-sm text-soft">
                  {d.revision}.{d.ordinal}
                </span>
                <span className="min-w-0 flex-1 truncate font-medium" title={d.title}>
                  {d.title}
                </span>
                <StandingTag standing={d.stage || d.standing} />
              </label>
            </li>
          ))}
          {onMore && (
            <li className="border-t border-rule p-2 text-center">
              <Button onClick={onMore}>Show more</Button>
            </li>
          )}
        </ul>
      )}
    </>
  );
}
