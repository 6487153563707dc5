import { X } from "lucide-react";
import type { ReactNode } from "react";
import type { FormField, PersonGroup, Plan } from "../api/types";
import { Labelled, Tick } from "../ui/kit";
import { AnsweringFields } from "./AnsweringFields";
import { ClosingFields } from "./ClosingFields";
import { freeKey } from "./edit";
import { RuleEditor } from "./RuleEditor";

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
  keeper,
  groups,
  words,
  onChange,
}: {
  plan: Plan;
  /** Who keeps it, and how to say so; not part of a draft, so it counts at once. */
  keeper: ReactNode;
  groups: readonly PersonGroup[];
  words: Readonly<Record<string, string>>;
  onChange: (plan: Plan) => void;
}) {
  const form = plan.form ?? [];
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
      {keeper}
      <Tick
        words="Only for certain packages"
        on={!!plan.fits}
        set={(on) =>
          onChange({
            ...plan,
            fits: on
              ? {
                  any: false,
                  conditions: [{ subject: "everyDocument", field: "kind", comparison: "is", value: "drawing" }],
                }
              : null,
          })
        }
      />
      {plan.fits && (
        <RuleEditor rule={plan.fits} form={[]} words={words["fits"]} onChange={(fits) => onChange({ ...plan, fits })} />
      )}
      <Tick
        words="Item by item: approved items go on, returned ones go back"
        on={!!plan.itemByItem}
        set={(itemByItem) => onChange({ ...plan, itemByItem })}
      />
      <Tick
        words="What was approved as noted is answered before release"
        on={!!plan.holdsNoted}
        set={(holdsNoted) => onChange({ ...plan, holdsNoted })}
      />
      <Tick
        words="Whoever has signed may request a change still: it opens their seat again"
        on={!!plan.signersReopen}
        set={(signersReopen) => onChange({ ...plan, signersReopen })}
      />
      <Tick
        words="The originator has a time to answer in"
        on={!!plan.answering}
        set={(on) => onChange({ ...plan, answering: on ? { workingDays: 5, reminders: [1], tells: [] } : null })}
      />
      {plan.answering && (
        <AnsweringFields
          answering={plan.answering}
          groups={groups}
          set={(answering) => onChange({ ...plan, answering })}
        />
      )}
      <Tick
        words="Supporting files may be signed for without opening them"
        on={!!plan.supportingUnopened}
        set={(supportingUnopened) => onChange({ ...plan, supportingUnopened })}
      />
      <Tick
        words="It needs no signature: packages may be released though nobody signs"
        on={plan.needsNoSignature !== undefined && plan.needsNoSignature !== ""}
        set={(on) => onChange({ ...plan, needsNoSignature: on ? "For information only." : "" })}
      />
      {plan.needsNoSignature && (
        <textarea
          className="field mb-2"
          rows={2}
          maxLength={400}
          aria-label="Why it needs no signature"
          value={plan.needsNoSignature}
          onChange={(e) => onChange({ ...plan, needsNoSignature: e.target.value })}
        />
      )}
      <h3 className="label mt-3 mb-1">Intake form</h3>
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
      <ClosingFields plan={plan} groups={groups} onChange={onChange} />
    </>
  );
}
