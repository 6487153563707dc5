import { X } from "lucide-react";
import type { Comparison, Condition, FormField, Rule, Subject } from "../api/types";

const comparisons: Record<Comparison, string> = {
  is: "is",
  isNot: "is not",
  moreThan: "is more than",
  atLeast: "is at least",
  lessThan: "is less than",
  atMost: "is at most",
  contains: "contains",
  matches: "reads like (* and ?)",
  isEmpty: "is left empty",
};

const documentFields = ["number", "kind", "discipline", "fileType"];

/** A rule built by picking field, comparison and value; its reading in plain words stands beneath. */
export function RuleEditor({
  rule,
  form,
  words,
  onChange,
}: {
  rule: Rule;
  form: readonly FormField[];
  words?: string;
  onChange: (rule: Rule) => void;
}) {
  const set = (i: number, patch: Partial<Condition>) =>
    onChange({ ...rule, conditions: rule.conditions.map((c, k) => (k === i ? { ...c, ...patch } : c)) });
  const subjects: [string, Subject, string, string][] = [
    ...form.map((f): [string, Subject, string, string] => [`form:${f.key}`, "form", f.key, f.label]),
    ...documentFields.flatMap((f): [string, Subject, string, string][] => [
      [`anyDocument:${f}`, "anyDocument", f, `${f === "fileType" ? "file type" : f} of any document`],
      [`everyDocument:${f}`, "everyDocument", f, `${f === "fileType" ? "file type" : f} of every document`],
    ]),
    ["size:", "size", "", "number of documents"],
  ];
  return (
    <div className="border-l-2 border-rule pl-2">
      {rule.conditions.map((c, i) => (
        <div key={i} className="mb-1.5 flex flex-wrap items-center gap-1">
          <select
            className="field !w-auto max-w-full flex-1"
            aria-label="What is looked at"
            value={`${c.subject}:${c.field}`}
            onChange={(e) => {
              const found = subjects.find((s) => s[0] === e.target.value)!;
              set(i, { subject: found[1], field: found[2] });
            }}
          >
            {subjects.map((s) => (
              <option key={s[0]} value={s[0]}>
                {s[3]}
              </option>
            ))}
          </select>
          <select
            className="field !w-auto"
            aria-label="How it is compared"
            value={c.comparison}
            onChange={(e) => set(i, { comparison: e.target.value as Comparison })}
          >
            {Object.entries(comparisons).map(([k, w]) => (
              <option key={k} value={k}>
                {w}
              </option>
            ))}
          </select>
          {c.comparison !== "isEmpty" && (
            <input
              className="field !w-20 flex-1"
              aria-label="With what"
              value={c.value}
              onChange={(e) => set(i, { value: e.target.value })}
            />
          )}
          {rule.conditions.length > 1 && (
            <button
              type="button"
              aria-label="Remove this condition"
              className="p-1"
              onClick={() => onChange({ ...rule, conditions: rule.conditions.filter((_, k) => k !== i) })}
            >
              <X size={14} />
            </button>
          )}
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-3 text-sm">
        <button
          type="button"
          className="underline"
          onClick={() =>
            onChange({
              ...rule,
              conditions: [...rule.conditions, { subject: "size", field: "", comparison: "moreThan", value: "1" }],
            })
          }
        >
          add a condition
        </button>
        {rule.conditions.length > 1 && (
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              className="accent-spruce"
              checked={rule.any}
              onChange={(e) => onChange({ ...rule, any: e.target.checked })}
            />
            any of them is enough
          </label>
        )}
      </div>
      {words && <p className="mt-1 text-sm text-soft">Reads: if {words}.</p>}
    </div>
  );
}
