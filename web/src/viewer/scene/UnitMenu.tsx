import { useQueryClient } from "@tanstack/react-query";
import { api } from "../../api/client";
import { useAct } from "../../api/useAct";
import type { SceneLeaf } from "../../api/types";
import { exactly } from "../../ui/time";
import { offered, signOf, type Unit } from "./units";

type Props = { draft: string; leaf: SceneLeaf };

/** What a model is counted in whose file does not say: asked of whoever looks, told with who said it. */
export function UnitMenu({ draft, leaf }: Props) {
  const queries = useQueryClient();
  const given = leaf.scales[0] ?? null;
  const setting = useAct(async (key, unit: Unit | null) => {
    await api.put(`/drafts/${draft}/leaves/${leaf.position}/scale`, { key, scale: unit && { unit } });
    // Masses follow from it, and lists.
    await queries.invalidateQueries({ queryKey: ["sheets", draft] });
    await queries.invalidateQueries({ queryKey: ["data", draft] });
    await queries.invalidateQueries({ queryKey: ["parts", draft] });
  });
  if (!leaf.maySetScale && !given) return <p className={`${look} border-ochre`}>Unit not known</p>;
  return (
    <label
      className={`${look} ${given ? "border-edge" : "border-ochre"}`}
      title={given?.by ? `Said by ${given.by}, ${exactly(given.at!)}` : undefined}
    >
      {given ? "Counted in" : "The file states no unit. Counted in"}
      <select
        className="field max-w-28 py-0"
        disabled={!leaf.maySetScale || setting.isBusy}
        value={given?.given?.unit ?? ""}
        onChange={(e) => void setting.run((e.target.value as Unit) || null)}
      >
        <option value="">not known</option>
        {offered.map((unit) => (
          <option key={unit} value={unit}>
            {signOf(unit)}
          </option>
        ))}
      </select>
      {setting.fault && (
        <span role="alert" className="text-rust">
          {setting.fault}
        </span>
      )}
    </label>
  );
}

const look = "absolute bottom-2 left-3 z-20 flex max-w-[70%] items-center gap-2 border bg-raised px-2 py-1 text-sm";
