import type { DocumentRow, FormField } from "../api/types";
import { Labelled } from "../ui/kit";
import { usePeople } from "../ui/people";

type Answers = Readonly<Record<string, string>>;

/** The plan's intake form as the sender fills it in. */
export function IntakeForm({
  form,
  answers,
  documents,
  onChange,
}: {
  form: readonly FormField[];
  answers: Answers;
  documents: readonly DocumentRow[];
  onChange: (answers: Answers) => void;
}) {
  return (
    <fieldset className="mb-3 border border-rule p-3">
      <legend className="label px-1">The plan asks</legend>
      {form.map((f) => (
        <Labelled
          key={f.key}
          label={`${f.label}${f.unit ? `, ${f.unit}` : ""}${f.must ? " (must be filled in)" : ""}`}
          hint={f.help || undefined}
        >
          <Input
            field={f}
            value={answers[f.key] ?? ""}
            documents={documents}
            set={(v) => onChange({ ...answers, [f.key]: v })}
          />
        </Labelled>
      ))}
    </fieldset>
  );
}

function Input({
  field,
  value,
  documents,
  set,
}: {
  field: FormField;
  value: string;
  documents: readonly DocumentRow[];
  set: (value: string) => void;
}) {
  const people = usePeople();
  const options: Partial<Record<FormField["kind"], (readonly [string, string])[]>> = {
    yesNo: [
      ["yes", "yes"],
      ["no", "no"],
    ],
    choice: field.options.map((o) => [o, o]),
    person: [...people.values()].map((p) => [p.id, p.name]),
    document: documents.map((d) => [d.id, `${d.number} ${d.title}`]),
  };
  const list = options[field.kind];
  if (list)
    return (
      <select className="field" value={value} onChange={(e) => set(e.target.value)}>
        <option value="">{field.must ? "choose" : "no answer"}</option>
        {list.map(([v, w]) => (
          <option key={v} value={v}>
            {w}
          </option>
        ))}
      </select>
    );
  if (field.kind === "longText")
    return <textarea className="field" rows={3} maxLength={4000} value={value} onChange={(e) => set(e.target.value)} />;
  return (
    <input
      className="field"
      type={field.kind === "date" ? "date" : "text"}
      inputMode={field.kind === "number" ? "decimal" : undefined}
      maxLength={400}
      value={value}
      onChange={(e) => set(e.target.value)}
    />
  );
}
