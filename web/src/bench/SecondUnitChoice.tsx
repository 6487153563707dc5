import type { SecondUnit } from "../viewer/measure";

type Props = { value: SecondUnit | null; onChange: (unit: SecondUnit | null) => void };

/** What measured lengths are told in besides millimetres. */
export function SecondUnitChoice({ value, onChange }: Props) {
  return (
    <label className="flex items-center gap-2 border-t border-rule pt-2">
      Lengths also in
      <select
        className="field w-auto py-0.5"
        value={value ?? ""}
        onChange={(e) => onChange(e.target.value === "" ? null : (e.target.value as SecondUnit))}
      >
        <option value="">mm only</option>
        <option value="metre">metres</option>
        <option value="inch">inches</option>
        <option value="foot">feet</option>
      </select>
    </label>
  );
}
