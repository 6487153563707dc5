import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api } from "../../api/client";
import type { ComponentData } from "../../api/types";
import { byRequests, tinted, type TintedGroup, type TintName } from "./tints";
import type { SceneTree } from "./tree";

const noGroups: readonly TintedGroup[] = [];
const nothing: ComponentData = { tints: [], documents: [] };

/** What is known of the components of a model besides their shapes, and by what of it they are tinted. @param requests components that an open one stands on */
export function useTint(
  draft: string,
  position: number,
  tree: SceneTree,
  densities: string,
  requests: readonly number[],
) {
  const known = useQuery({
    queryKey: ["data", draft, position, densities],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${position}/data`, densities ? { densities } : {}),
    staleTime: 60_000,
    placeholderData: (before) => before,
    meta: { saysItself: true },
  });
  const { data = nothing } = known;
  const [by, setBy] = useState<TintName | null>(null);
  const groups = useMemo(() => {
    // The same as long as nothing is tinted: what is known of components is no reason to draw them anew.
    if (by === null) return noGroups;
    if (by === "requests") return byRequests(tree, requests);
    const tint = data.tints.find((t) => t.by === by);
    return tint ? tinted(tint) : [];
  }, [by, tree, requests, data]);
  const colours = useMemo(
    () => new Map(groups.flatMap((g) => g.components.map((c) => [c, g.colour] as const))),
    [groups],
  );
  const offered: readonly TintName[] = [...data.tints.map((t) => t.by), "requests"];
  /** The document of a component's own number, or that of the nearest it lies in. */
  const documentOf = (component: number) => {
    for (const c of [...tree.pathOf(component)].reverse()) {
      const found = data.documents.find((d) => d.components.includes(c));
      if (found) return found.document;
    }
    return null;
  };
  return { by, setBy, offered, groups, colours, known, documents: data.documents, documentOf };
}
