import type { Answering, PersonGroup } from "../api/types";
import { Labelled } from "../ui/kit";

/** How long the originator has, when they are reminded, and who hears when they are late. */
export function AnsweringFields({
  answering,
  groups,
  set,
}: {
  answering: Answering;
  groups: readonly PersonGroup[];
  set: (answering: Answering) => void;
}) {
  const late = (answering.tells ?? [])[0];
  return (
    <div className="mb-2 grid grid-cols-2 gap-2 border-l border-rule pl-3">
      <Labelled label="Working days to answer">
        <input
          className="field"
          type="number"
          min={0.25}
          step={0.25}
          value={answering.workingDays}
          onChange={(e) => set({ ...answering, workingDays: Number(e.target.value) })}
        />
      </Labelled>
      <Labelled label="Reminded, days before">
        <input
          className="field"
          defaultValue={(answering.reminders ?? []).join(", ")}
          onBlur={(e) =>
            set({
              ...answering,
              reminders: e.target.value
                .split(",")
                .map((d) => Number.parseInt(d, 10))
                .filter((d) => d > 0),
            })
          }
        />
      </Labelled>
      <Labelled label="When late, tell">
        <select
          className="field"
          value={late?.groups[0] ?? ""}
          onChange={(e) =>
            set({
              ...answering,
              tells: e.target.value
                ? [
                    {
                      at: "late",
                      people: [],
                      groups: [e.target.value],
                      originator: false,
                      afterDays: late?.afterDays ?? 0,
                    },
                  ]
                : [],
            })
          }
        >
          <option value="">nobody besides</option>
          {groups.map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
            </option>
          ))}
        </select>
      </Labelled>
    </div>
  );
}
