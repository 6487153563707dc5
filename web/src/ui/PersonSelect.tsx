import type { Person } from "../api/types";

/** Chooses one person; the first option stands for nobody. */
export function PersonSelect({
  people,
  value,
  nobody,
  label,
  words = (p) => p.name,
  onChange,
}: {
  people: readonly Person[];
  value: string;
  /** Words for choosing nobody; left out where somebody must be chosen. */
  nobody?: string;
  /** For a select without a visible label. */
  label?: string;
  words?: (person: Person) => string;
  onChange: (person: string) => void;
}) {
  return (
    <select className="field" aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      {nobody !== undefined && <option value="">{nobody}</option>}
      {people.map((p) => (
        <option key={p.id} value={p.id}>
          {words(p)}
        </option>
      ))}
    </select>
  );
}
