import { X } from "lucide-react";
import type { Choice, Plan, Rule } from "../api/types";
import { Labelled } from "../ui/kit";
import { addWay, stepsBefore, update } from "./edit";
import { RuleEditor } from "./RuleEditor";

const anyRule: Rule = { any: false, conditions: [{ subject: "size", field: "", comparison: "moreThan", value: "1" }] };

/** A choice: what it asks, who or what decides, and its ways. */
export function ChoicePanel({
  plan,
  choice,
  words,
  onChange,
}: {
  plan: Plan;
  choice: Choice;
  words: Readonly<Record<string, string>>;
  onChange: (plan: Plan) => void;
}) {
  const set = (patch: Partial<Choice>) => onChange(update<Choice>(plan, choice.key, patch));
  const setWay = (i: number, patch: Partial<Choice["ways"][number]>) =>
    set({ ways: choice.ways.map((w, k) => (k === i ? { ...w, ...patch } : w)) });
  return (
    <>
      <Labelled label="The question">
        <input id="cell-name" className="field" value={choice.name} onChange={(e) => set({ name: e.target.value })} />
      </Labelled>
      <Labelled label="Decided">
        <select
          className="field"
          value={choice.pickedAt ?? ""}
          onChange={(e) => {
            const at = e.target.value === "" ? null : e.target.value;
            set({
              pickedAt: at,
              ways: choice.ways.map((w, i) => ({
                ...w,
                rule: i === choice.ways.length - 1 || at ? null : (w.rule ?? anyRule),
              })),
            });
          }}
        >
          <option value="">by rules, the first that holds</option>
          {stepsBefore(plan, choice.key).map((s) => (
            <option key={s.key} value={s.key}>
              by who signs “{s.name}”
            </option>
          ))}
        </select>
      </Labelled>
      <h3 className="label mb-1">Ways</h3>
      {choice.ways.map((w, i) => (
        <div key={w.key} className="mb-2 border border-rule bg-raised p-2">
          <div className="mb-1 flex gap-1">
            <input
              className="field"
              aria-label="Name of the way"
              value={w.name}
              onChange={(e) => setWay(i, { name: e.target.value })}
            />
            {choice.ways.length > 2 && i < choice.ways.length - 1 && (
              <button
                type="button"
                aria-label={`Remove the way ${w.name}`}
                className="p-1"
                onClick={() => set({ ways: choice.ways.filter((_, k) => k !== i) })}
              >
                <X size={14} />
              </button>
            )}
          </div>
          {i === choice.ways.length - 1 ? (
            <p className="text-sm text-soft">Taken in every other case.</p>
          ) : choice.pickedAt ? (
            <p className="text-sm text-soft">Taken when a signer picks it.</p>
          ) : (
            <RuleEditor
              rule={w.rule ?? anyRule}
              form={plan.form ?? []}
              words={words[w.key]}
              onChange={(rule) => setWay(i, { rule })}
            />
          )}
        </div>
      ))}
      <button type="button" className="underline" onClick={() => onChange(addWay(plan, choice))}>
        add a way
      </button>
    </>
  );
}
