import { Search } from "lucide-react";
import { useState, type ReactNode } from "react";
import { isFound } from "../lists/listing";
import { Button } from "../ui/kit";

/** A list at the left of which one is picked, and what is picked at the right. */
export function ListBeside({
  label,
  rows = [],
  tree,
  picked,
  onPick,
  add,
  onAdd,
  children,
}: {
  label: string;
  rows?: readonly { id: string; name: string; beside?: string }[];
  /** What stands in place of rows, for the words to be found. */
  tree?: (words: string) => ReactNode;
  picked: string | null;
  onPick: (id: string) => void;
  add: string;
  onAdd: () => void;
  children: ReactNode;
}) {
  const [words, setWords] = useState("");
  const shown = rows.filter((r) => isFound(words, r.name, r.beside));
  return (
    <>
      <nav
        aria-label={label}
        className="flex w-[300px] shrink-0 flex-col border-r border-rule max-[700px]:max-h-[38dvh] max-[700px]:w-full max-[700px]:border-r-0 max-[700px]:border-b"
      >
        <label className="relative border-b border-rule p-3">
          <Search size={15} className="absolute top-5 left-5.5 text-soft" />
          <input
            type="search"
            className="field !pl-8"
            aria-label={`Find in ${label.toLowerCase()}`}
            placeholder="Find"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
        </label>
        {tree && <div className="min-h-0 flex-1 overflow-y-auto py-1">{tree(words)}</div>}
        <ul className={tree ? "hidden" : "min-h-0 flex-1 overflow-y-auto"}>
          {rows.length > 0 && shown.length === 0 && <li className="px-4 py-3 text-soft">None has these words.</li>}
          {shown.map((r) => (
            <li key={r.id}>
              <button
                type="button"
                aria-current={r.id === picked}
                className={`flex w-full items-baseline gap-2 border-b border-rule py-2 pr-3 text-left ${r.id === picked ? "bg-picked shadow-[inset_3px_0_0_var(--color-spruce)]" : "hover:bg-hover"}`}
                style={{ paddingLeft: 16 }}
                onClick={() => onPick(r.id)}
              >
                <span className="min-w-[45%] flex-1 truncate font-medium" title={r.name}>
                  {r.name}
                </span>
                <span className="min-w-0 truncate text-sm text-soft" title={r.beside}>
                  {r.beside}
                </span>
              </button>
            </li>
          ))}
        </ul>
        <div className="border-t border-rule p-3">
          <Button onClick={onAdd}>{add}</Button>
        </div>
      </nav>
      <div className="min-w-0 flex-1 overflow-y-auto p-6 max-[700px]:p-4">
        <div className="max-w-[680px]">{children}</div>
      </div>
    </>
  );
}
