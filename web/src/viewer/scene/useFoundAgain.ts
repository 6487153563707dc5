import { useQueries } from "@tanstack/react-query";
import { useMemo } from "react";
import { api } from "../../api/client";
import type { FoundAgain, Pin } from "../../api/types";
import { standsOn } from "./pins";
import type { SceneTree } from "./tree";
import { pickedOf } from "./useBetween";

/** Pins that were set on another draft of the model. */
export type CarriedPins = readonly { id: string; shape: Pin; from: { draft: string; leaf: number } }[];

/** How many the server looks for at once. */
const MOST = 500;

/** Where they are on this draft, as the server finds their parts and faces again, by markup. */
export function useFoundAgain(draft: string, position: number, pins: CarriedPins): ReadonlyMap<string, FoundAgain> {
  const asked = [...new Set(pins.map((p) => `${p.from.draft} ${p.from.leaf}`))].flatMap((key) => {
    const own = pins.filter((p) => `${p.from.draft} ${p.from.leaf}` === key);
    return Array.from({ length: Math.ceil(own.length / MOST) }, (_, i) => {
      const some = own.slice(i * MOST, (i + 1) * MOST);
      const picked = some.map(({ shape }) => pickedOf({ ...shape, edge: null, isCorner: false, isPoint: false }));
      return { ids: some.map((p) => p.id), body: { ...some[0]!.from, picked } };
    });
  });
  const answers = useQueries({
    queries: asked.map(({ body }) => ({
      queryKey: ["found", draft, position, body],
      queryFn: () => api.post(`/drafts/${draft}/leaves/${position}/found`, body),
      staleTime: Infinity,
      retry: false,
      meta: { saysItself: true },
    })),
  });
  return new Map(answers.flatMap(({ data }, i) => (data ?? []).map((found, k) => [asked[i]!.ids[k]!, found] as const)));
}

/** The components that pins stand on: of what was carried here it is where it was found again, and not what is called as it was. */
export function useStandingOn(
  pins: readonly { id: string; shape: Pin }[],
  found: ReadonlyMap<string, FoundAgain>,
  tree: SceneTree,
): readonly number[] {
  const standing = pins.flatMap(({ id, shape }) => {
    const again = found.get(id);
    return (again ? again.component : standsOn(tree, shape)) ?? [];
  });
  const told = standing.join(" ");
  // eslint-disable-next-line react-hooks/exhaustive-deps -- by what it says: the same ones are the same list
  return useMemo(() => standing, [told]);
}
