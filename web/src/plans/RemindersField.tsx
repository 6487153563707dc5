import { Labelled } from "../ui/kit";

/** On which whole working days before the due time somebody is reminded. */
export function RemindersField({
  label,
  days,
  set,
}: {
  label: string;
  days: readonly number[];
  set: (days: number[]) => void;
}) {
  return (
    <Labelled label={label} hint="Several with commas: 2, 1. Empty for no reminder.">
      <input
        className="field"
        defaultValue={days.join(", ")}
        onBlur={(e) =>
          set(
            [...new Set(e.target.value.split(/[,\s]+/).map(Number))]
              .filter((d) => Number.isInteger(d) && d > 0 && d < 100)
              .sort((x, y) => y - x),
          )
        }
      />
    </Labelled>
  );
}
