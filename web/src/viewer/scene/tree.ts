import type { ComponentFacts } from "../../api/types";

/** Row by row: three columns for the axes and one for the origin. */
export type Placement = readonly number[];
const STILL: Placement = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

/** First `inner`, then `outer`. */
export function after(outer: Placement, inner: Placement): Placement {
  const m = new Array<number>(12);
  for (let r = 0; r < 3; r++)
    for (let c = 0; c < 4; c++)
      m[4 * r + c] =
        outer[4 * r]! * inner[c]! +
        outer[4 * r + 1]! * inner[4 + c]! +
        outer[4 * r + 2]! * inner[8 + c]! +
        (c === 3 ? outer[4 * r + 3]! : 0);
  return m;
}

/** The tree of a model's components. */
export class SceneTree {
  /** Of each component, those that lie in it; the outermost under -1. */
  private readonly inside = new Map<number, number[]>();
  private byPath: Map<string, number> | null = null;
  /** Where each stands in the model. */
  readonly placed: readonly Placement[];

  constructor(readonly components: readonly ComponentFacts[]) {
    const placed: Placement[] = [];
    components.forEach(({ parent, at }, i) => {
      const there = this.inside.get(parent);
      if (there) there.push(i);
      else this.inside.set(parent, [i]);
      placed.push(parent < 0 ? (at ?? STILL) : at ? after(placed[parent]!, at) : placed[parent]!);
    });
    this.placed = placed;
  }

  childrenOf(component: number): readonly number[] {
    return this.inside.get(component) ?? [];
  }

  /** A component and all that lie in it, however deep. */
  within(component: number): number[] {
    const all = [component];
    for (let i = 0; i < all.length; i++) all.push(...this.childrenOf(all[i]!));
    return all;
  }

  /** Those that a component lies in, the outermost first, and itself. */
  pathOf(component: number): number[] {
    const path: number[] = [];
    for (let at = component; at >= 0; at = this.components[at]!.parent) path.unshift(at);
    return path;
  }

  /** What it is called: its number with its name where they are not one, and which of several it is. */
  wordsOf(component: number): string {
    const { name, number, instance } = this.components[component]!;
    const called = [number && !name.includes(number) ? number : "", name].filter(Boolean).join(" ") || "Component";
    return instance && instance !== name ? `${called} (${instance})` : called;
  }

  /** Those of a number; where none has it, those of that name; where none is called so, those with the words in their number or name. */
  meant(words: string): number[] {
    for (const called of ["number", "name"] as const) {
      const own = this.components.flatMap((c, i) => (c[called] === words ? [i] : []));
      if (own.length > 0) return own;
    }
    return this.found(words);
  }

  /** Those whose number, name or own name has some words in it. */
  found(words: string): number[] {
    const wanted = words.trim().toLowerCase();
    if (wanted === "") return [];
    return this.components.flatMap((c, i) =>
      `${c.number} ${c.name} ${c.instance}`.toLowerCase().includes(wanted) ? [i] : [],
    );
  }

  /** A component with a part, by what it and those that it lies in are called, the outermost first; the first of several called alike. */
  called(path: readonly string[]): number | null {
    this.byPath ??= this.pathsOf();
    return this.byPath.get(path.join("\n")) ?? null;
  }

  /** Whether a component is there, has a part and is called so. */
  isCalled(component: number, path: readonly string[]): boolean {
    const own = this.components[component]?.part == null ? [] : this.pathOf(component);
    return own.length === path.length && own.every((c, i) => this.wordsOf(c) === path[i]) && own.length > 0;
  }

  private pathsOf() {
    const all: string[] = [];
    const paths = new Map<string, number>();
    this.components.forEach(({ parent, part }, i) => {
      all.push(parent < 0 ? this.wordsOf(i) : `${all[parent]!}\n${this.wordsOf(i)}`);
      if (part !== null && !paths.has(all[i]!)) paths.set(all[i]!, i);
    });
    return paths;
  }

  /** How often a part stands in the model. */
  quantityOf(part: number): number {
    return this.components.filter((c) => c.part === part).length;
  }
}
