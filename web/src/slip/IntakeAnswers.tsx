import { planOf, type PackageView } from "../api/types";
import { Clamped } from "../ui/Clamped";
import { usePeople } from "../ui/people";

/** What the sender filled in; everyone who signs reads it. */
export function IntakeAnswers({ p }: { p: PackageView }) {
  const people = usePeople();
  const answers: Readonly<Record<string, string>> = p.slip.facts?.answers ?? {};
  const fields = (planOf(p.slip).form ?? []).filter((f) => answers[f.key]);
  if (fields.length === 0) return null;
  return (
    <dl className="mb-3 grid grid-cols-[fit-content(60%)_minmax(0,1fr)] gap-x-3">
      {fields.map((f) =>
        f.kind === "longText" ? (
          <div key={f.key} className="col-span-2">
            <dt className="text-soft">{f.label}</dt>
            <dd>
              <Clamped>{answers[f.key]}</Clamped>
            </dd>
          </div>
        ) : (
          <div key={f.key} className="contents">
            <dt className="text-soft">{f.label}</dt>
            <dd className="break-words">
              {f.kind === "person" ? people.get(answers[f.key]!)?.name : answers[f.key]} {f.unit}
            </dd>
          </div>
        ),
      )}
    </dl>
  );
}
