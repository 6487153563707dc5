import { RadioGroup } from "radix-ui";
import { planOf, workingDaysOf } from "../api/types";
import type { Planned } from "./usePlanned";

/** The plans, those that fit first, one of which is chosen. */
export function PlanPicker({ planned, onChoose }: { planned: Planned; onChoose: (plan: string) => void }) {
  const { fits, plans, chosen } = planned;
  return (
    <RadioGroup.Root
      id="plans"
      tabIndex={-1}
      aria-label="Routing plan"
      value={chosen?.id ?? ""}
      onValueChange={onChoose}
      className="mb-6 grid grid-cols-2 gap-3 max-[700px]:grid-cols-1"
    >
      {fits?.map((f) => {
        const isChosen = f.id === chosen?.id;
        const row = plans?.find((p) => p.id === f.id);
        return (
          <RadioGroup.Item
            key={f.id}
            value={f.id}
            className={`flex flex-col border px-3 py-2 text-left ${isChosen ? "border-spruce bg-raised outline-1 outline-spruce" : f.misfit ? "border-rule" : "border-rule bg-raised hover:border-soft"}`}
          >
            <span className="font-semibold">{f.name}</span>
            <span className="block text-soft">{f.misfit ? "Not for these documents" : f.purpose}</span>
            <span className="mt-1 block text-sm text-soft">
              First {f.firstStep} · {f.signatures} {f.signatures === 1 ? "signature" : "signatures"} ·{" "}
              {f.usualDays !== null && f.usualDays !== undefined
                ? `usually ${f.usualDays} working days`
                : row && `at most ${workingDaysOf(planOf(row))} working days`}
            </span>
          </RadioGroup.Item>
        );
      })}
    </RadioGroup.Root>
  );
}
