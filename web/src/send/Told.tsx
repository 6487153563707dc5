import { useMe } from "../session/me";
import { usePeople } from "../ui/people";

/** People to tell, picked one by one. */
export function Told({
  legend,
  picked,
  onChange,
}: {
  legend: string;
  picked: readonly string[];
  onChange: (people: readonly string[]) => void;
}) {
  const me = useMe();
  const people = usePeople();
  return (
    <fieldset className="mb-3">
      <legend className="label mb-1">{legend}</legend>
      <div className="flex flex-wrap gap-1.5">
        {[...people.values()]
          .filter((p) => p.id !== me.id)
          .map((p) => (
            <label
              key={p.id}
              className={`cursor-pointer rounded-full border px-2.5 py-0.5 has-focus-visible:outline-2 ${picked.includes(p.id) ? "border-spruce bg-spruce-soft" : "border-edge"}`}
            >
              <input
                type="checkbox"
                className="sr-only"
                checked={picked.includes(p.id)}
                onChange={() => onChange(picked.includes(p.id) ? picked.filter((x) => x !== p.id) : [...picked, p.id])}
              />
              {picked.includes(p.id) ? "✓ " : ""}
              {p.name}
            </label>
          ))}
      </div>
    </fieldset>
  );
}
