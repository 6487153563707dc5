import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api } from "../../api/client";
import type { ExactFacts, ModelMeasure, SceneFacts } from "../../api/types";
import { betweenMeasure, measureOfOne, type MeasureSaid } from "./measured";
import { standsOn } from "./pins";
import { pickedOf } from "./useBetween";
import type { SceneTree } from "./tree";

/** Kept measures that lie on a model. */
export type KeptMeasures = readonly { id: string; shape: ModelMeasure }[];
/** How many the server measures at once. */
const MOST = 60;

/** What kept measures come to on this draft, by markup; those of what is not there are left out. */
export function useMeasured(
  draft: string,
  position: number,
  measures: KeptMeasures,
  { tree, facts, exact, unit }: { tree: SceneTree; facts: SceneFacts; exact: ExactFacts | undefined; unit: string },
): ReadonlyMap<string, MeasureSaid> {
  const pairs = measures.flatMap(({ id, shape }) => {
    const spots = shape.of.map((spot) => ({ ...pickedOf(spot), component: standsOn(tree, spot) ?? -1 }));
    return spots.length === 2 ? [{ id, first: spots[0]!, second: spots[1]! }] : [];
  });
  const asked = pairs.map(({ first, second }) => ({ first, second }));
  const { data } = useQuery({
    queryKey: ["measured", draft, position, asked],
    queryFn: async () => {
      const all = [];
      for (let i = 0; i < asked.length; i += MOST)
        all.push(
          ...(await api.post(`/drafts/${draft}/leaves/${position}/measured`, { pairs: asked.slice(i, i + MOST) })),
        );
      return all;
    },
    enabled: asked.length > 0,
    staleTime: Infinity,
    placeholderData: (before) => before,
    meta: { saysItself: true },
  });
  const ids = pairs.map((p) => p.id).join(" ");
  return useMemo(() => {
    const said = new Map<string, MeasureSaid>();
    for (const { id, shape } of measures)
      if (shape.of.length === 1 && exact) {
        const one = measureOfOne(shape.of[0]!, tree, facts, exact, unit);
        if (one) said.set(id, one);
      }
    // While others are asked for, those of before are there in their order.
    const known = ids.split(" ");
    data?.forEach((found, i) => {
      const between = known[i] === undefined ? null : betweenMeasure(found, unit);
      if (between) said.set(known[i]!, between);
    });
    return said;
  }, [measures, data, ids, exact, tree, facts, unit]);
}
