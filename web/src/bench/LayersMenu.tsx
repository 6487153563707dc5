import { Layers } from "lucide-react";
import { BarPopover } from "./BarPopover";

export type LayerOn = { name: string; isOn: boolean };

/** Which layers of the sheet are shown. */
export function LayersMenu({
  layers,
  onChange,
}: {
  layers: readonly LayerOn[];
  onChange: (layers: LayerOn[]) => void;
}) {
  return (
    <BarPopover icon={<Layers size={15} />} words="Layers">
      <p className="label mb-1">Layers of this sheet</p>
      {layers.map((l, i) => (
        <label key={l.name} className="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            className="accent-spruce"
            checked={l.isOn}
            onChange={() => onChange(layers.map((x, k) => (k === i ? { ...x, isOn: !x.isOn } : x)))}
          />
          <span className="truncate">{l.name}</span>
        </label>
      ))}
      <div className="mt-2 flex gap-3">
        <button type="button" className="underline" onClick={() => onChange(layers.map((l) => ({ ...l, isOn: true })))}>
          All on
        </button>
        <button
          type="button"
          className="underline"
          onClick={() => onChange(layers.map((l) => ({ ...l, isOn: false })))}
        >
          All off
        </button>
      </div>
    </BarPopover>
  );
}
