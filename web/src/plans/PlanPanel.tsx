import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import type { ReactNode } from "react";
import { api } from "../api/client";
import { stepsOf, type Answering, type FormField, type PersonGroup, type Plan } from "../api/types";
import { Labelled, Tick } from "../ui/kit";
import { FolderField } from "../ui/FolderField";
import { freeKey, NOBODY } from "./edit";
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
  const { data: plans } = useQuery({ queryKey: ["plans"], queryFn: () => api.get("/plans") });
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
      <h3 className="label mb-1">On release</h3>
      <p className="mb-2 text-sm text-soft">The revisions are locked and the earlier ones superseded. Besides:</p>
      {closing.map((c, i) => (
        <div key={i} className="mb-1 flex items-center gap-1">
          {c.action === "openFollowUp" ? (
            <span className="grid flex-1 gap-1">
              <input
                className="field"
                aria-label="Title of the next package"
                placeholder="Title of the next package"
                value={c.title}
                onChange={(e) =>
                  onChange({
                    ...plan,
                    closing: closing.map((x, k) => (k === i ? { ...c, title: e.target.value } : x)),
                  })
                }
              />
              <select
                className="field"
                aria-label="Plan of the next package"
                value={c.plan}
                onChange={(e) =>
                  onChange({ ...plan, closing: closing.map((x, k) => (k === i ? { ...c, plan: e.target.value } : x)) })
                }
              >
                <option value={NOBODY}>choose its plan</option>
                {(plans ?? []).map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.name}
                  </option>
                ))}
              </select>
            </span>
          ) : c.action === "fileWherePicked" ? (
            <>
              <span className="shrink-0 text-soft">file where a signer picks of</span>
              <select
                className="field"
                aria-label="Step whose signer picks the folder"
                value={c.step}
                onChange={(e) =>
                  onChange({ ...plan, closing: closing.map((x, k) => (k === i ? { ...c, step: e.target.value } : x)) })
                }
              >
                <option value="">choose</option>
                {stepsOf(plan).map((s) => (
                  <option key={s.key} value={s.key}>
                    {s.name}
                  </option>
                ))}
              </select>
            </>
          ) : c.action === "fileUnder" ? (
            <>
              <select
                className="field !w-24"
                aria-label="Move or copy"
                value={c.copy ? "copy" : "move"}
                onChange={(e) =>
                  onChange({
                    ...plan,
                    closing: closing.map((x, k) => (k === i ? { ...c, copy: e.target.value === "copy" } : x)),
                  })
                }
              >
                <option value="move">move to</option>
                <option value="copy">copy to</option>
              </select>
              <FolderField
                label="Folder"
                value={c.folder}
                onChange={(folder) =>
                  onChange({ ...plan, closing: closing.map((x, k) => (k === i ? { ...c, folder } : x)) })
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
      <div className="flex flex-wrap gap-x-4">
        <button
          type="button"
          className="underline"
          onClick={() => onChange({ ...plan, closing: [...closing, { action: "fileUnder", folder: "" }] })}
        >
          file under a folder
        </button>
        <button
          type="button"
          className="underline"
          onClick={() => onChange({ ...plan, closing: [...closing, { action: "fileWherePicked", step: "" }] })}
        >
          file where a signer picks
        </button>
        <button
          type="button"
          className="underline"
          onClick={() =>
            onChange({ ...plan, closing: [...closing, { action: "openFollowUp", plan: NOBODY, title: "" }] })
          }
        >
          prepare a next package
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

/** How long the originator has, when they are reminded, and who hears when they are late. */
function AnsweringFields({
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
