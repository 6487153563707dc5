import type { SceneFacts } from "../../api/types";
import { SceneTreeList } from "./SceneTreeList";
import type { SceneTree } from "./tree";
import type { useShown } from "./useShown";

type Props = {
  tree: SceneTree;
  facts: SceneFacts;
  parts: ReturnType<typeof useShown>;
  picked: readonly number[];
  hasTable: boolean;
  onPick: (component: number, isMore: boolean) => void;
  onTable: () => void;
};

/** The components of a model, and how they are shown. */
export function PartsPanel({ tree, facts, parts, picked, hasTable, onPick, onTable }: Props) {
  const pieces = tree.components.filter((c) => c.part !== null).length;
  return (
    <>
      <div className="flex items-center">
        <p className="label flex-1">
          {facts.parts.length === 1 ? "1 part" : `${facts.parts.length} parts`} ·{" "}
          {pieces === 1 ? "1 piece" : `${pieces} pieces`}
        </p>
        <button type="button" aria-pressed={hasTable} className="min-h-6 text-sm underline" onClick={onTable}>
          Parts list
        </button>
      </div>
      <SceneTreeList tree={tree} hidden={parts.hidden} picked={picked} onPick={onPick} onHide={parts.hide} />
      {pieces > 1 && (
        <label className="mt-1 flex items-center gap-2 text-sm">
          Apart
          <input
            type="range"
            className="min-w-0 flex-1 accent-spruce"
            min={0}
            max={3}
            step={0.02}
            value={parts.apart}
            aria-valuetext={parts.apart === 0 ? "whole" : `${Math.round(parts.apart * 100)} %`}
            onChange={(e) => parts.setApart(Number(e.target.value))}
          />
        </label>
      )}
      {!parts.isUsual && (
        <button type="button" className="mt-1 min-h-7 border border-edge text-sm" onClick={parts.showAll}>
          Show everything as usual
        </button>
      )}
    </>
  );
}
