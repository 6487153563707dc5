import { X } from "lucide-react";
import type { FormField, PersonGroup, Plan } from "../api/types";
import { Labelled } from "../ui/kit";
import { freeKey } from "./edit";

const kinds: Record<FormField["kind"], string> = {
  text: "text",
  longText: "long text",
  number: "number with unit",
  date: "date",
  choice: "choice",
  yesNo: "yes or no",
  person: "person",
  document: "document",
};

/** The plan itself: its name and purpose, the intake form, and what happens on release. */
export function PlanPanel({
  plan,
  groups,
  onChange,
}: {
  plan: Plan;
  groups: readonly PersonGroup[];
  onChange: (plan: Plan) => void;
}) {
  const form = plan.form ?? [];
  const closing = plan.closing ?? [];
  const setField = (i: number, patch: Partial<FormField>) =>
    onChange({ ...plan, form: form.map((f, k) => (k === i ? { ...f, ...patch } : f)) });
  return (
    <>
      <Labelled label="Name of the plan">
        <input
          id="cell-name"
          className="field"
          value={plan.name}
          maxLength={120}
          onChange={(e) => onChange({ ...plan, name: e.target.value })}
        />
      </Labelled>
      <Labelled label="Purpose" hint="One sentence: when to choose it.">
        <input
          className="field"
          value={plan.purpose}
          onChange={(e) => onChange({ ...plan, purpose: e.target.value })}
        />
      </Labelled>
      <h3 className="label mb-1">Intake form</h3>
      <p className="mb-2 text-sm text-soft">Filled in by the sender, read by everyone who signs.</p>
      {form.map((f, i) => (
        <div key={f.key} className="mb-2 border border-rule bg-raised p-2">
          <div className="flex gap-1">
            <input
              className="field"
              aria-label="Label of the field"
              value={f.label}
              onChange={(e) => setField(i, { label: e.target.value })}
            />
            <button
              type="button"
              aria-label={`Remove the field ${f.label}`}
              className="p-1"
              onClick={() => onChange({ ...plan, form: form.filter((_, k) => k !== i) })}
            >
              <X size={14} />
            </button>
          </div>
          <div className="mt-1 flex flex-wrap items-center gap-1">
            <select
              className="field !w-auto"
              aria-label="Kind of field"
              value={f.kind}
              onChange={(e) => setField(i, { kind: e.target.value as FormField["kind"] })}
            >
              {Object.entries(kinds).map(([k, w]) => (
                <option key={k} value={k}>
                  {w}
                </option>
              ))}
            </select>
            {f.kind === "number" && (
              <input
                className="field !w-20"
                aria-label="Unit"
                placeholder="unit"
                value={f.unit}
                onChange={(e) => setField(i, { unit: e.target.value })}
              />
            )}
            {f.kind === "choice" && (
              <input
                className="field !w-40 flex-1"
                aria-label="Options, separated by commas"
                placeholder="options, separated by commas"
                defaultValue={f.options.join(", ")}
                onBlur={(e) =>
                  setField(i, {
                    options: e.target.value
                      .split(",")
                      .map((o) => o.trim())
                      .filter(Boolean),
                  })
                }
              />
            )}
            <label className="flex items-center gap-1">
              <input
                type="checkbox"
                className="accent-spruce"
                checked={f.must}
                onChange={(e) => setField(i, { must: e.target.checked })}
              />
              must
            </label>
          </div>
          <input
            className="field mt-1"
            aria-label="Help"
            placeholder="A sentence of help"
            value={f.help}
            onChange={(e) => setField(i, { help: e.target.value })}
          />
        </div>
      ))}
      <button
        type="button"
        className="mb-4 underline"
        onClick={() =>
          onChange({
            ...plan,
            form: [
              ...form,
              {
                key: freeKey(plan, "field"),
                label: "New field",
                kind: "text",
                unit: "",
                help: "",
                must: false,
                options: [],
              },
            ],
          })
        }
      >
        add a field
      </button>
      <h3 className="label mb-1">On release</h3>
      <p className="mb-2 text-sm text-soft">The revisions are locked and the earlier ones superseded. Besides:</p>
      {closing.map((c, i) => (
        <div key={i} className="mb-1 flex items-center gap-1">
          {c.action === "fileUnder" ? (
            <>
              <span className="shrink-0 text-soft">file under</span>
              <input
                className="field"
                aria-label="Folder"
                placeholder="Mount / Released"
                value={c.folder}
                onChange={(e) =>
                  onChange({
                    ...plan,
                    closing: closing.map((x, k) => (k === i ? { ...c, folder: e.target.value } : x)),
                  })
                }
              />
            </>
          ) : (
            <>
              <span className="shrink-0 text-soft">inform</span>
              <select
                className="field"
                aria-label="Group informed"
                value={c.group}
                onChange={(e) =>
                  onChange({ ...plan, closing: closing.map((x, k) => (k === i ? { ...c, group: e.target.value } : x)) })
                }
              >
                {groups.map((g) => (
                  <option key={g.id} value={g.id}>
                    {g.name}
                  </option>
                ))}
              </select>
            </>
          )}
          <button
            type="button"
            aria-label="Remove this action"
            className="p-1"
            onClick={() => onChange({ ...plan, closing: closing.filter((_, k) => k !== i) })}
          >
            <X size={14} />
          </button>
        </div>
      ))}
      <div className="flex gap-4">
        <button
          type="button"
          className="underline"
          onClick={() => onChange({ ...plan, closing: [...closing, { action: "fileUnder", folder: "" }] })}
        >
          file under a folder
        </button>
        {groups[0] && (
          <button
            type="button"
            className="underline"
            onClick={() =>
              onChange({ ...plan, closing: [...closing, { action: "informGroup", group: groups[0]!.id }] })
            }
          >
            inform a group
          </button>
        )}
      </div>
    </>
  );
}
