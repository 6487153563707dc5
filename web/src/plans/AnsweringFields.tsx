import type { Answering, PersonGroup } from "../api/types";
import { Labelled } from "../ui/kit";
import { usePeople } from "../ui/people";
import { RemindersField } from "./RemindersField";
import { Tellings } from "./Tellings";

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
  const people = usePeople();
  return (
    <div className="mb-3 border-l border-rule pl-3">
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
      <RemindersField
        label="Remind the originator, working days before"
        days={answering.reminders ?? []}
        set={(reminders) => set({ ...answering, reminders })}
      />
      <Tellings
        title="Who hears when it is late"
        onlyLate
        tells={answering.tells ?? []}
        people={[...people.values()].filter((p) => !p.isGuest)}
        groups={groups}
        onChange={(tells) => set({ ...answering, tells })}
      />
    </div>
  );
}
