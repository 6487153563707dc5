import type { Place } from "../sheet";
import { cornersOf, type Find } from "./useFind";

/** What was found, marked on the sheet. */
export function FoundMarks({ find, draft, leaf, place }: { find: Find; draft: string; leaf: number; place: Place }) {
  if (find.hits.length === 0) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden data-testid="found">
      {find.hits.map((h, i) =>
        h.draft !== draft || h.leaf !== leaf
          ? null
          : h.covers.map((c, k) => (
              <polygon
                key={`${i}/${k}`}
                points={cornersOf(c)
                  .map(place)
                  .map((p) => `${p.x},${p.y}`)
                  .join(" ")}
                className={h === find.active ? "fill-ochre/35 stroke-ochre" : "fill-ochre/15 stroke-ochre/60"}
                strokeWidth={h === find.active ? 2.5 : 1}
              />
            )),
      )}
    </svg>
  );
}
