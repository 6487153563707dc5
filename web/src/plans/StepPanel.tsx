import { X } from "lucide-react";
import type { Holder, Person, PersonGroup, Plan, Seat, Step } from "../api/types";
import { Labelled, Tick } from "../ui/kit";
import { freeKey, stepsBefore, update } from "./edit";
import { RuleEditor } from "./RuleEditor";
import { RemindersField } from "./RemindersField";
import { Tellings } from "./Tellings";

type Props = {
  plan: Plan;
  step: Step;
  people: readonly Person[];
  groups: readonly PersonGroup[];
  words: Readonly<Record<string, string>>;
  onChange: (plan: Plan) => void;
};

/** Everything about one step, edited in place beside the strip. */
export function StepPanel({ plan, step, people, groups, words, onChange }: Props) {
  const set = (patch: Partial<Step>) => onChange(update<Step>(plan, step.key, patch));
  const before = stepsBefore(plan, step.key);
  const points = step.checkpoints ?? [];
  return (
    <>
      <Labelled label="Name of the step">
        <input id="cell-name" className="field" value={step.name} onChange={(e) => set({ name: e.target.value })} />
      </Labelled>
      <Labelled label="Instruction" hint="**bold**, lists with - and [links](address) are shown as such.">
        <textarea
          className="field"
          rows={3}
          value={step.instruction}
          onChange={(e) => set({ instruction: e.target.value })}
        />
      </Labelled>
      <h3 className="label mb-1">Seats</h3>
      {step.seats.map((s) => (
        <SeatEditor
          key={s.key}
          seat={s}
          people={people}
          groups={groups}
          before={before}
          onChange={(seat) => set({ seats: step.seats.map((x) => (x.key === s.key ? seat : x)) })}
          onRemove={() => set({ seats: step.seats.filter((x) => x.key !== s.key) })}
        />
      ))}
      <button
        type="button"
        className="mb-3 underline"
        onClick={() =>
          set({
            seats: [...step.seats, { key: freeKey(plan, "seat"), role: "Signer", holder: { holder: "originator" } }],
          })
        }
      >
        add a seat
      </button>
      <h3 className="label mb-1">The signer answers</h3>
      {points.map((c, i) => (
        <div key={c.key} className="mb-1.5 flex flex-wrap items-center gap-1 border border-rule bg-raised p-1.5">
          <input
            className="field"
            aria-label="Question"
            value={c.text}
            onChange={(e) => set({ checkpoints: points.map((x, k) => (k === i ? { ...x, text: e.target.value } : x)) })}
          />
          <select
            className="field !w-auto"
            aria-label="Kind of answer"
            value={c.kind}
            onChange={(e) =>
              set({
                checkpoints: points.map((x, k) => (k === i ? { ...x, kind: e.target.value as typeof c.kind } : x)),
              })
            }
          >
            <option value="yesNo">yes or no</option>
            <option value="number">number</option>
            <option value="text">text</option>
          </select>
          {c.kind === "number" && (
            <input
              className="field !w-16"
              aria-label="Unit"
              placeholder="unit"
              value={c.unit}
              onChange={(e) =>
                set({ checkpoints: points.map((x, k) => (k === i ? { ...x, unit: e.target.value } : x)) })
              }
            />
          )}
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              className="accent-spruce"
              checked={c.must}
              onChange={(e) =>
                set({ checkpoints: points.map((x, k) => (k === i ? { ...x, must: e.target.checked } : x)) })
              }
            />
            must
          </label>
          <button
            type="button"
            aria-label="Remove this question"
            className="ml-auto p-1"
            onClick={() => set({ checkpoints: points.filter((_, k) => k !== i) })}
          >
            <X size={14} />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="mb-3 underline"
        onClick={() =>
          set({
            checkpoints: [
              ...points,
              { key: `point-${Date.now().toString(36)}`, text: "", kind: "yesNo", unit: "", must: true },
            ],
          })
        }
      >
        add a question
      </button>
      <div className="grid grid-cols-2 gap-3">
        <Labelled label="Time allowed, working days">
          <input
            className="field"
            type="number"
            min={0.25}
            step={0.25}
            value={step.workingDays}
            onChange={(e) => set({ workingDays: Number(e.target.value) })}
          />
        </Labelled>
        <Labelled label="A return goes to">
          <select
            className="field"
            value={step.returnsTo ?? ""}
            onChange={(e) => set({ returnsTo: e.target.value === "" ? null : e.target.value })}
          >
            <option value="">the originator</option>
            {before.map((b) => (
              <option key={b.key} value={b.key}>
                {b.name}
              </option>
            ))}
          </select>
        </Labelled>
      </div>
      <Labelled label="When it comes back">
        <select
          className="field"
          value={step.signAgain ?? "all"}
          onChange={(e) => set({ signAgain: e.target.value as Step["signAgain"] })}
        >
          <option value="all">everyone signs again</option>
          <option value="returnedAndAfter">only who returned it, and those after</option>
          <option value="changedItems">everyone, for the items that changed</option>
        </select>
      </Labelled>
      <Labelled
        label="Seen before approving, % of each item"
        hint="At a legible size, on the signer's own screen; recorded with the signature. Leave it empty to ask for nothing."
      >
        <input
          className="field"
          style={{ width: 96 }}
          type="number"
          min={0}
          max={100}
          step={1}
          value={step.seenShare ? step.seenShare : ""}
          onChange={(e) => set({ seenShare: Math.round(Number(e.target.value)) || 0 })}
        />
      </Labelled>
      <Tick
        words="The originator may not sign here"
        on={!!step.barsOriginator}
        set={(v) => set({ barsOriginator: v })}
      />
      <Tick
        words="Markups are seen by others once their signer has signed"
        on={!!step.marksApart}
        set={(v) => set({ marksApart: v })}
      />
      <Tick
        words="Nobody signs in two seats of this step"
        on={!!step.oneSeatEach}
        set={(v) => set({ oneSeatEach: v })}
      />
      <Tick
        words="Passes by itself, unsigned, under a rule"
        on={!!step.passesWhen}
        set={(v) =>
          set({
            passesWhen: v
              ? {
                  any: false,
                  conditions: [{ subject: "everyDocument", field: "kind", comparison: "is", value: "supporting file" }],
                }
              : null,
          })
        }
      />
      {step.passesWhen && (
        <RuleEditor
          rule={step.passesWhen}
          form={plan.form ?? []}
          words={words[step.key]}
          onChange={(r) => set({ passesWhen: r })}
        />
      )}
      <RemindersField
        label="Remind the signers, working days before"
        days={step.reminders ?? []}
        set={(reminders) => set({ reminders })}
      />
      <Tellings tells={step.tells ?? []} people={people} groups={groups} onChange={(tells) => set({ tells })} />
    </>
  );
}

/** How many of a group can be asked for; what was asked for once stays to be seen, whoever has left the group since. */
const counts = (members: number, needed: number) => Array.from({ length: Math.max(members, needed) }, (_, i) => i + 1);

function SeatEditor({
  seat,
  people,
  groups,
  before,
  onChange,
  onRemove,
}: {
  seat: Seat;
  people: readonly Person[];
  groups: readonly PersonGroup[];
  before: readonly Step[];
  onChange: (seat: Seat) => void;
  onRemove: () => void;
}) {
  const h = seat.holder;
  const kinds: Record<Holder["holder"], [string, () => Holder | null]> = {
    person: ["a person", () => ({ holder: "person", person: people[0]?.id ?? "" })],
    group: ["members of a group", () => (groups[0] ? { holder: "group", group: groups[0].id, needed: 1 } : null)],
    chosen: ["someone the sender chooses", () => (groups[0] ? { holder: "chosen", group: groups[0].id } : null)],
    originator: ["the originator", () => ({ holder: "originator" })],
    owners: ["the documents' originators", () => ({ holder: "owners" })],
    signerOf: ["who signed an earlier step", () => (before[0] ? { holder: "signerOf", step: before[0].key } : null)],
  };
  return (
    <div className="mb-2 border border-rule bg-raised p-2">
      <div className="flex gap-1">
        <input
          className="field"
          aria-label="Role of the seat"
          value={seat.role}
          onChange={(e) => onChange({ ...seat, role: e.target.value })}
        />
        <button type="button" aria-label={`Remove seat ${seat.role}`} className="p-1" onClick={onRemove}>
          <X size={14} />
        </button>
      </div>
      <div className="mt-1 flex flex-wrap gap-1">
        <select
          className="field !w-auto flex-1"
          aria-label="Filled by"
          value={h.holder}
          onChange={(e) => {
            const made = kinds[e.target.value as Holder["holder"]][1]();
            if (made) onChange({ ...seat, holder: made });
          }}
        >
          {Object.entries(kinds).map(([k, [w, make]]) => (
            <option key={k} value={k} disabled={k !== h.holder && make() === null}>
              {w}
            </option>
          ))}
        </select>
        {h.holder === "person" && (
          <select
            className="field !w-auto flex-1"
            aria-label="Person"
            value={h.person}
            onChange={(e) => onChange({ ...seat, holder: { ...h, person: e.target.value } })}
          >
            {!people.some((p) => p.id === h.person) && <option value={h.person}>choose a person</option>}
            {people.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        )}
        {(h.holder === "group" || h.holder === "chosen") && (
          <select
            className="field !w-auto flex-1"
            aria-label="Group"
            value={h.group}
            onChange={(e) => onChange({ ...seat, holder: { ...h, group: e.target.value } })}
          >
            {groups.map((g) => (
              <option key={g.id} value={g.id}>
                {g.name} ({g.members.length})
              </option>
            ))}
          </select>
        )}
        {h.holder === "group" && (
          <select
            className="field !w-auto"
            aria-label="How many sign"
            value={h.needed}
            onChange={(e) => onChange({ ...seat, holder: { ...h, needed: Number(e.target.value) } })}
          >
            <option value={0}>all</option>
            {counts(groups.find((g) => g.id === h.group)?.members.length ?? 0, h.needed).map((n) => (
              <option key={n} value={n}>
                {n} of them
              </option>
            ))}
          </select>
        )}
        {h.holder === "signerOf" && (
          <select
            className="field !w-auto flex-1"
            aria-label="Earlier step"
            value={h.step}
            onChange={(e) => onChange({ ...seat, holder: { ...h, step: e.target.value } })}
          >
            {before.map((b) => (
              <option key={b.key} value={b.key}>
                {b.name}
              </option>
            ))}
          </select>
        )}
      </div>
      {h.holder === "group" && (
        <label className="mt-1 flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="accent-spruce"
            checked={!!seat.waitsForRest}
            onChange={(e) => onChange({ ...seat, waitsForRest: e.target.checked })}
          />
          after a return, wait for the others' signatures
        </label>
      )}
    </div>
  );
}
