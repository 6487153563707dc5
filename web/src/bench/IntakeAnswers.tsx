import { planOf, type PackageView } from "../api/types";
import { usePeople } from "../ui/people";

/** What the sender filled in; everyone who signs reads it. */
export function IntakeAnswers({ p }: { p: PackageView }) {
  const people = usePeople();
  const answers: Readonly<Record<string, string>> = p.slip.facts?.answers ?? {};
  const fields = (planOf(p.slip).form ?? []).filter((f) => answers[f.key]);
  if (fields.length === 0) return null;
  return (
    <dl className="mb-3 grid max-h-28 grid-cols-[auto_1fr] gap-x-3 overflow-y-auto">
      {fields.map((f) => (
        <div key={f.key} className="contents">
          <dt className="text-soft">{f.label}</dt>
          <dd>
            {f.kind === "person" ? people.get(answers[f.key]!)?.name : answers[f.key]} {f.unit}
          </dd>
        </div>
      ))}
    </dl>
  );
}
