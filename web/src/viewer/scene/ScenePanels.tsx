import type { DraftName, KeptView, SceneFacts } from "../../api/types";
import { DataPanel } from "./DataPanel";
import type { Standing } from "../camera/eye";
import { PartsPanel } from "./PartsPanel";
import type { SideTab } from "./SceneSide";
import { SectionPanel } from "./SectionPanel";
import type { SectionPlane } from "./sections";
import { StatedList } from "./StatedList";
import type { SceneTree } from "./tree";
import type { usePicking } from "./usePicking";
import type { useSections } from "./useSections";
import type { useShown } from "./useShown";
import type { useStated } from "./useStated";
import type { useTint } from "./useTint";
import { ViewsPanel } from "./ViewsPanel";

type Props = {
  tab: SideTab;
  draft: string;
  position: number;
  tree: SceneTree;
  facts: SceneFacts;
  box: readonly number[];
  unit: string;
  parts: ReturnType<typeof useShown>;
  picking: ReturnType<typeof usePicking>;
  sections: ReturnType<typeof useSections>;
  tint: ReturnType<typeof useTint>;
  stated: ReturnType<typeof useStated>;
  /** The flat face that is picked. */
  face: React.ComponentProps<typeof SectionPanel>["face"];
  isApart: boolean;
  hasTable: boolean;
  onTable: () => void;
  onFlat: (section: SectionPlane) => void;
  look: (to: Standing) => void;
  /** What is seen now, and how a view is shown that was kept. */
  now: () => KeptView;
  show: (view: KeptView, isOfThisDraft: boolean) => void;
  onDocument: ((to: { name: DraftName }) => void) | null;
};

/** What the side of a model shows: its parts, its sections, its views, or what is known of it. */
export function ScenePanels({
  tab,
  draft,
  position,
  tree,
  facts,
  parts,
  picking,
  sections,
  tint,
  stated,
  ...p
}: Props) {
  const { picked, within, pick } = picking;
  switch (tab) {
    case "parts":
      return <PartsPanel {...{ tree, facts, parts, picked }} hasTable={p.hasTable} onPick={pick} onTable={p.onTable} />;
    case "sections":
      return (
        <SectionPanel
          {...{ sections, tree }}
          {...{ box: p.box, unit: p.unit, face: p.face, isApart: p.isApart }}
          onFlat={p.onFlat}
          onPick={(c) => pick(c, false)}
        />
      );
    case "views":
      return <ViewsPanel {...{ draft, position }} look={p.look} now={p.now} show={p.show} />;
    case "data": {
      const faint = new Set([...parts.hidden, ...parts.ghost]);
      const isAlone = (own: readonly number[]) => {
        const those = new Set(own);
        return tree.components.every((c, i) => c.part === null || faint.has(i) !== those.has(i));
      };
      return (
        <DataPanel
          {...{ tree, tint, isAlone }}
          picked={within}
          onDocument={p.onDocument}
          onAlone={(own) => (isAlone(own) ? parts.showAll() : parts.isolate(own, "ghost"))}
          onMore={(more) => picking.components([...new Set([...picked, ...more])])}
        >
          <p className="label mt-4">Dimensions in the file</p>
          <StatedList {...{ tree, stated }} onPick={stated.goTo} />
        </DataPanel>
      );
    }
  }
}
