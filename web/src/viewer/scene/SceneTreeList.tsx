import { ChevronDown, ChevronRight, Eye, EyeOff } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import type { SceneTree } from "./tree";

type Props = {
  tree: SceneTree;
  hidden: ReadonlySet<number>;
  picked: readonly number[];
  onPick: (component: number, isMore: boolean) => void;
  onHide: (components: readonly number[], isHidden: boolean) => void;
};

/** Rows shown at once; what is beyond is asked for. */
const MOST_ROWS = 400;

/** The components of a model, set like a parts list: item, name, how many there are of its part. */
export function SceneTreeList({ tree, hidden, picked, onPick, onHide }: Props) {
  const [words, setWords] = useState("");
  const [most, setMost] = useState(MOST_ROWS);
  // Small models are open, large ones as far as their assemblies.
  const [open, setOpen] = useState<ReadonlySet<number>>(
    () => new Set(tree.components.length <= 60 ? tree.components.keys() : tree.childrenOf(-1)),
  );
  const quantities = useMemo(() => {
    const counts = new Map<number, number>();
    for (const { part } of tree.components) if (part !== null) counts.set(part, (counts.get(part) ?? 0) + 1);
    return counts;
  }, [tree]);
  const last = picked[picked.length - 1];
  const list = useRef<HTMLUListElement>(null);
  // What is picked in the model is brought into view here.
  useEffect(() => {
    if (last === undefined) return;
    setOpen((was) => {
      const above = tree.pathOf(last).slice(0, -1);
      return above.every((c) => was.has(c)) ? was : new Set([...was, ...above]);
    });
    requestAnimationFrame(() =>
      list.current?.querySelector(`[data-component="${last}"]`)?.scrollIntoView({ block: "nearest" }),
    );
  }, [last, tree]);

  const rows: { component: number; depth: number; item: string }[] = [];
  const add = (parent: number, depth: number, item: string) =>
    tree.childrenOf(parent).forEach((component, i) => {
      const own = item ? `${item}.${i + 1}` : String(i + 1);
      rows.push({ component, depth, item: own });
      if (open.has(component)) add(component, depth + 1, own);
    });
  const found = tree.found(words);
  if (words.trim() === "") {
    // One assembly that holds everything is no item of its own.
    const roots = tree.childrenOf(-1);
    const only = roots.length === 1 && tree.childrenOf(roots[0]!).length > 0 ? roots[0]! : null;
    if (only !== null) {
      rows.push({ component: only, depth: 0, item: "" });
      if (open.has(only)) add(only, 1, "");
    } else add(-1, 0, "");
  } else for (const component of found) rows.push({ component, depth: 0, item: "" });

  const toggle = (component: number) =>
    setOpen((was) =>
      was.has(component) ? new Set([...was].filter((c) => c !== component)) : new Set([...was, component]),
    );
  return (
    <>
      <input
        type="search"
        aria-label="Search the components"
        placeholder="Number or name"
        className="field mb-1 w-full"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      {words.trim() !== "" && (
        <p role="status" className="px-1 text-sm text-soft">
          {found.length === 0 ? "Nothing is called so." : `${found.length} found`}
        </p>
      )}
      <ul ref={list} className="min-h-0 flex-1 overflow-y-auto" aria-label="Components">
        {rows.slice(0, most).map(({ component, depth, item }) => {
          const { part, missingFile } = tree.components[component]!;
          const within = tree.within(component).filter((c) => tree.components[c]!.part !== null);
          const isHidden = within.length > 0 && within.every((c) => hidden.has(c));
          const isPicked = picked.includes(component);
          const inside = tree.childrenOf(component).length > 0;
          const name = tree.wordsOf(component);
          return (
            <li
              key={component}
              data-component={component}
              className={`flex min-h-7 items-center gap-1 border-b border-rule ${isPicked ? "bg-picked font-semibold" : "hover:bg-hover"}`}
            >
              <button
                type="button"
                aria-label={`${open.has(component) ? "Close" : "Open"} ${name}`}
                aria-expanded={inside ? open.has(component) : undefined}
                disabled={!inside}
                className="flex h-6 w-6 shrink-0 items-center justify-center disabled:invisible"
                style={{ marginLeft: depth * 10 }}
                onClick={() => toggle(component)}
              >
                {open.has(component) ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
              </button>
              <span className="w-6 shrink-0 font-mono text-xs text-soft">{item}</span>
              <button
                type="button"
                aria-pressed={isPicked}
                title={missingFile ? `${name}, in ${missingFile}, which is missing` : name}
                className={`min-w-0 flex-1 truncate text-left ${isHidden ? "text-soft line-through" : ""}`}
                onClick={(e) => onPick(component, e.shiftKey || e.ctrlKey || e.metaKey)}
              >
                {name}
                {missingFile && <span className="block truncate text-sm text-rust">missing: {missingFile}</span>}
              </button>
              {part !== null && (
                <span className="shrink-0 px-1 text-sm text-soft tabular-nums">{quantities.get(part)}</span>
              )}
              <button
                type="button"
                aria-label={`${isHidden ? "Show" : "Hide"} ${name}`}
                disabled={within.length === 0}
                className="flex h-6 w-6 shrink-0 items-center justify-center text-soft hover:text-ink disabled:invisible"
                onClick={() => onHide(tree.within(component), !isHidden)}
              >
                {isHidden ? <EyeOff size={14} /> : <Eye size={14} />}
              </button>
            </li>
          );
        })}
        {rows.length > most && (
          <li>
            <button type="button" className="min-h-7 w-full underline" onClick={() => setMost(most + MOST_ROWS)}>
              {rows.length - most} more
            </button>
          </li>
        )}
      </ul>
    </>
  );
}
