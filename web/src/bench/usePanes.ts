import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api } from "../api/client";
import { isScene, type ItemOnSheet, type ShownInModel, type ShownInModels } from "../api/types";
import { linksTo, linksToComponents } from "../viewer/named/links";
import { useNamed } from "../viewer/named/useNamed";
import type { SceneLook } from "../viewer/scene/sceneProps";
import { sheetsQuery } from "../viewer/sheetsQuery";
import type { BenchNow } from "./useBench";
import { besideOf } from "./useShown";

type At = { draft: string; leaf: number };
const noItems: readonly ItemOnSheet[] = [];
const noModels: ShownInModels = { models: [], mayRelate: false };

/** Where a sheet or table speaks of the components of a model. */
function useItems(on: At | null, model: At | null): readonly ItemOnSheet[] {
  const { data } = useQuery({
    queryKey: ["sheets", on?.draft, "items", on?.leaf, model],
    queryFn: () =>
      api.get(`/drafts/${on!.draft}/leaves/${on!.leaf}/items`, { model: model!.draft, leaf: String(model!.leaf) }),
    enabled: on !== null && model !== null,
    staleTime: 60_000,
    meta: { saysItself: true },
  });
  return data ?? noItems;
}

/** What the two panes of the bench say of one another: a model in one of them, what speaks of its components in the other. */
export function usePanes(b: BenchNow) {
  const { p, draft, leaf, beside, named } = b;
  const { data: besideLeaves } = useQuery({
    ...sheetsQuery(beside?.draft ?? ""),
    enabled: beside !== null,
    meta: { saysItself: true },
  });
  const besideLeaf = beside && (besideLeaves?.find((l) => l.position === beside.leaf) ?? besideLeaves?.[0]);
  const main = leaf ? { draft, leaf: leaf.position } : null;
  const second = beside && besideLeaf ? { draft: beside.draft, leaf: besideLeaf.position } : null;
  const isModel = { main: isScene(leaf), beside: isScene(besideLeaf ?? undefined) };
  const items = useItems(isModel.main ? null : main, isModel.beside ? second : null);
  const besideItems = useItems(isModel.beside ? null : second, isModel.main ? main : null);
  const besideNamed = useNamed(beside?.draft ?? "", besideLeaf?.position);
  const { data: models } = useQuery({
    queryKey: ["sheets", draft, "models"],
    queryFn: () => api.get(`/drafts/${draft}/models`),
    enabled: leaf !== undefined && !isModel.main,
    staleTime: 60_000,
    meta: { saysItself: true },
  });
  /** Where to look in the model of either pane, as long as that lies there. */
  const [asked, setAsked] = useState<(At & { scene: SceneLook; over: unknown }) | null>(null);
  /** Numbers of what is picked in the model. */
  const [picked, setPicked] = useState<readonly string[]>([]);
  const look = (at: At | null) => (asked && at && asked.draft === at.draft && asked.leaf === at.leaf ? asked : null);
  const pickIn = (at: At, number: string) =>
    setAsked({ ...at, scene: { draft: at.draft, eye: null, spot: null, words: number }, over: b.lookAtScene });

  const links = useMemo(() => {
    const isItem = new Set(items.map((i) => i.number));
    return [
      ...linksTo(
        named.filter((n) => !isItem.has(n.name.number)),
        b.follow,
      ),
      ...linksToComponents(items, picked, (number) => second && pickIn(second, number)),
    ];
    // eslint-disable-next-line react-hooks/exhaustive-deps -- where the model lies follows from the items
  }, [items, named, picked, b.follow]);
  const isBesideItem = new Set(besideItems.map((i) => i.number));
  const besideLinks = [
    ...linksTo(
      besideNamed.filter((n) => !isBesideItem.has(n.name.number)),
      (to) => b.setBeside(besideOf(p, to)),
    ),
    ...linksToComponents(besideItems, picked, (number) => main && pickIn(main, number)),
  ];
  return {
    links,
    besideLinks,
    // What one goes to afterwards, such as a note, comes before it.
    look: { main: asked?.over === b.lookAtScene ? look(main) : null, beside: look(second) },
    onNumbers: setPicked,
    shownIn: models ?? noModels,
    openModel: (model: ShownInModel) => {
      // The model that goes with the sheet in this package, else the newest.
      const at = {
        draft: p.items.find((i) => i.document === model.name.document)?.draft ?? model.name.draft,
        leaf: model.leaf,
      };
      b.setBeside(at);
      if (model.number) pickIn(at, model.number);
    },
  };
}

export type Panes = ReturnType<typeof usePanes>;
