import type { Rolldown } from "vite";

/** Bytes up to which a module that several places share travels with the others like it. */
const SMALL = 6000;

const ICONS = /lucide-react\/dist\/esm\/lucide-react\./;
const icon = /lucide-react\/dist\/esm\/icons\/([\w-]+)\./;
const named = /import\s*\{([^}]*)\}\s*from\s*["']lucide-react["']/g;
/** The file of an icon: "ChevronDown" is chevron-down, "Undo2" undo-2. */
const fileOf = (name: string) =>
  name
    .replace(/([a-z])([A-Z0-9])/g, "$1-$2")
    .replace(/([A-Z0-9])([A-Z])/g, "$1-$2")
    .toLowerCase();

/**
 * What a list of all that its package holds names, and no house needs: places ask for many things at once, page through lists and change
 * them.
 */
const LATER = new RegExp(
  `/@tanstack/(react-query|query-core)/build/modern/(${[
    "useQueries",
    "queriesObserver",
    "useInfiniteQuery",
    "infiniteQueryObserver",
    "useMutation",
    "mutationObserver",
  ].join("|")})\\.`,
);

/** All that a module needs, and what that needs. Icons are imported through a list of them all: only those that are named count. */
function neededBy(entry: string, graph: Rolldown.ChunkingContext): Set<string> {
  const needed = new Set<string>();
  const names = new Set<string>();
  const icons = new Map<string, string>();
  const walk = (from: string) => {
    const open = [from];
    for (let id = open.pop(); id !== undefined; id = open.pop()) {
      if (needed.has(id) || LATER.test(id)) continue;
      needed.add(id);
      const module = graph.getModuleInfo(id);
      for (const [, list] of module?.code?.matchAll(named) ?? [])
        for (const one of list!.split(",")) names.add(fileOf(one.trim().split(/\s/)[0]!));
      for (const to of module?.importedIds ?? []) {
        const [, file] = icon.exec(to) ?? [];
        if (file && ICONS.test(id)) icons.set(file, to);
        else open.push(to);
      }
    }
  };
  walk(entry);
  for (const name of names) if (icons.has(name)) walk(icons.get(name)!);
  return needed;
}

/**
 * Which modules travel in one file: what asks for the rest, what is shown first, and what is seen before that, each as one; the small things that places share,
 * as another; and what the viewers share.
 * Left to itself the bundler makes thirty files of a kilobyte each for a place, and naming them to the browser takes longer than fetching.
 * @param entry the module that the page begins with
 * @param house the module that draws first
 * @param early the module that shows a picture before that
 */
export function chunks(entry: string, house: string, early: string): Rolldown.OutputOptions["codeSplitting"] {
  const needed = new Map<string, Set<string>>();
  const isNeeded = (by: string, id: string, graph: Rolldown.ChunkingContext) => {
    if (!needed.has(by)) needed.set(by, neededBy(by, graph));
    return needed.get(by)!.has(id);
  };
  return {
    groups: [
      { name: (id, graph) => (isNeeded(entry, id, graph) ? "first" : null), priority: 2 },
      { name: (id, graph) => (isNeeded(house, id, graph) ? "house" : null), priority: 1 },
      { name: (id, graph) => (isNeeded(early, id, graph) ? "early" : null), priority: 0.5 },
      { name: "shared", test: (id) => !id.includes("/src/viewer/"), minShareCount: 2, maxModuleSize: SMALL },
      { name: "viewer", test: (id) => id.includes("/src/viewer/"), minShareCount: 2 },
    ],
  };
}
