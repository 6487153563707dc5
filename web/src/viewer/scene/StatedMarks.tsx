import { inModel } from "./exact";
import { add, placeOf, type Eye, type V3 } from "./eye";
import type { SceneTree } from "./tree";
import type { Stated } from "./useStated";

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
  return [...places].map(([key, all]) => {
    const { component, at } = all[0]!;
    const spot = inModel(tree.placed[component]!, at, false);
    const { x, y } = placeOf(eye, ways ? add(spot, ways[component]!) : spot, clientWidth, clientHeight);
    const isLeft = x < clientWidth / 2;
    return (
      <div key={key} data-on-sheet className="absolute z-10 text-ink" style={{ left: x, top: y }}>
        <svg
          width="2"
          height="2"
          className="pointer-events-none absolute top-0 left-0 overflow-visible"
          aria-hidden="true"
        >
          <line x1="0" y1="0" x2={isLeft ? -34 : 34} y2="-26" stroke="currentColor" strokeWidth="1.1" />
          <circle r="2.2" className="fill-current" />
        </svg>
        <div
          className={`absolute flex flex-col ${isLeft ? "items-end" : ""}`}
          style={isLeft ? { right: 34, bottom: 26, translate: "0 50%" } : { left: 34, bottom: 26, translate: "0 50%" }}
        >
          {all.map((one) => (
            <button
              key={one.index}
              type="button"
              data-testid="stated"
              title={one.name}
              className="min-h-6 border border-edge bg-raised px-1 font-mono text-xs whitespace-nowrap"
              onClick={() => onPick(one)}
            >
              {one.words}
            </button>
          ))}
        </div>
      </div>
    );
  });
}
