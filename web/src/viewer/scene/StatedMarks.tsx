import { inModel } from "./exact";
import { add, placeOf, type Eye, type V3 } from "../camera/eye";
import type { SceneTree } from "./tree";
import type { Stated } from "./useStated";

/** Of the labels, in CSS pixels: how wide a letter and high a line is, the room about the words, and how far they stand from the spot. */
const [LETTER, LINE, ROOM, ASIDE, UP] = [7.3, 24, 6, 34, 26];

type Props = {
  eye: Eye;
  tree: SceneTree;
  shown: readonly Stated[];
  hidden: ReadonlySet<number>;
  ways: readonly V3[] | null;
  frame: React.RefObject<HTMLElement | null>;
  onPick: (stated: Stated) => void;
};

/** What a model states of its parts, on the faces that it speaks of; several of one face stand below one another. */
export function StatedMarks({ eye, tree, shown, hidden, ways, frame, onPick }: Props) {
  if (!frame.current) return null;
  const { clientWidth, clientHeight } = frame.current;
  const places = new Map<string, Stated[]>();
  for (const one of shown) {
    if (hidden.has(one.component)) continue;
    const key = `${one.component}/${one.faces[0] ?? ""}`;
    places.set(key, [...(places.get(key) ?? []), one]);
  }
  const labels = [...places].map(([key, all]) => {
    const { component, at } = all[0]!;
    const spot = inModel(tree.placed[component]!, at, false);
    const { x, y } = placeOf(eye, ways ? add(spot, ways[component]!) : spot, clientWidth, clientHeight);
    const wide = Math.max(...all.map((d) => d.words.length)) * LETTER + 2 * ROOM;
    const isLeft = x < clientWidth / 2 ? x > wide + ASIDE : x > clientWidth - wide - ASIDE;
    return { key, all, x, y, isLeft, high: all.length * LINE, top: y - UP - (all.length * LINE) / 2 };
  });
  // Those of one side stand below one another where they would lie over one another.
  for (const isLeft of [true, false]) {
    let free = -Infinity;
    for (const one of labels.filter((l) => l.isLeft === isLeft).sort((a, b) => a.top - b.top)) {
      one.top = Math.max(one.top, free);
      free = one.top + one.high + 2;
    }
  }
  return labels.map(({ key, all, x, y, isLeft, high, top }) => (
    <div key={key} data-on-sheet className="absolute z-10 text-ink" style={{ left: x, top: y }}>
      <svg
        width="2"
        height="2"
        className="pointer-events-none absolute top-0 left-0 overflow-visible"
        aria-hidden="true"
      >
        <line
          x1="0"
          y1="0"
          x2={isLeft ? -ASIDE : ASIDE}
          y2={top + high / 2 - y}
          stroke="currentColor"
          strokeWidth="1.1"
        />
        <circle r="2.2" className="fill-current" />
      </svg>
      <div
        className={`absolute flex flex-col ${isLeft ? "items-end" : "items-start"}`}
        style={{ top: top - y, ...(isLeft ? { right: ASIDE } : { left: ASIDE }) }}
      >
        {all.map((one) => (
          <button
            key={one.index}
            type="button"
            data-testid="stated"
            title={one.name}
            className="border border-edge bg-raised px-1 font-mono text-xs whitespace-nowrap"
            style={{ height: LINE }}
            onClick={() => onPick(one)}
          >
            {one.words}
          </button>
        ))}
      </div>
    </div>
  ));
}
