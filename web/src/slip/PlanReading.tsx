import { blocksOf, stepsOf, type Choice, type Plan, type Preview, type Step, planOf } from "../api/types";
import { Formatted } from "../ui/Formatted";
import { usePeople } from "../ui/people";
import { moments } from "./moments";

/** A plan as it would run for a package: every step with its instruction and names, every choice with its rules, taken or not. */
export function PlanReading({ preview }: { preview: Preview }) {
  const plan = planOf(preview);
  const cells = blocksOf(plan).filter((b): b is Step | Choice => b.block === "step" || b.block === "choice");
  return (
    <>
      {cells.map((b) =>
        b.block === "step" ? (
          <StepReading key={b.key} step={b} plan={plan} preview={preview} />
        ) : (
          <section key={b.key} className="mt-4">
            <h3 className="font-semibold">{b.name}</h3>
            {b.pickedAt && (
              <p className="text-soft">
                A signer of “{stepsOf(plan).find((s) => s.key === b.pickedAt)?.name}” picks the way.
              </p>
            )}
            <ul>
              {b.ways.map((w, i) => (
                <li key={w.key} className="text-soft">
                  <b className="font-semibold text-ink">{w.name}</b>{" "}
                  {i === b.ways.length - 1
                    ? "in every other case"
                    : b.pickedAt
                      ? "when it is picked"
                      : `if ${preview.proof.words[w.key] ?? "…"}`}
                  {w.blocks.blocks.length === 0 && ": straight on"}
                </li>
              ))}
            </ul>
          </section>
        ),
      )}
      {(plan.closing ?? []).length > 0 && (
        <section className="mt-4">
          <h3 className="font-semibold">On release</h3>
          <ul className="text-soft">
            {plan.closing!.map((c, i) => (
              <li key={i}>
                {c.action === "fileUnder"
                  ? `${c.copy ? "Found in" : "Filed under"} ${c.folder}`
                  : c.action === "informGroup"
                    ? "A group is informed"
                    : c.action === "fileWherePicked"
                      ? `Filed where a signer of ${stepsOf(plan).find((s) => s.key === c.step)?.name ?? "a step"} picks`
                      : `A next package is prepared: ${c.title}`}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function StepReading({ step, plan, preview }: { step: Step; plan: Plan; preview: Preview }) {
  const people = usePeople();
  const foreseen = preview.forecast?.steps.find((s) => s.step === step.key);
  const off = foreseen?.prospect === "notTaken";
  const told = [...new Set((step.tells ?? []).map((t) => moments[t.at]))];
  return (
    <section className="mt-4">
      <div className="flex justify-between gap-3">
        <h3 className={`font-semibold ${off ? "text-soft" : ""}`}>{step.name}</h3>
        <span className="shrink-0 text-soft">
          {step.workingDays} working {step.workingDays === 1 ? "day" : "days"}
        </span>
      </div>
      {foreseen && off && <p className="text-soft">Not on this way: {foreseen.because}.</p>}
      {foreseen?.prospect === "automatic" && <p className="text-soft">Passes by itself: {foreseen.because}.</p>}
      {step.passesWhen && foreseen?.prospect === "signed" && (
        <p className="text-soft">Would pass by itself if {preview.proof.words[step.key] ?? "…"}.</p>
      )}
      <div className="text-soft">
        <Formatted text={step.instruction} />
      </div>
      {step.seats.map((seat) => {
        const filled = preview.seats.find((x) => x.key === seat.key);
        const names = filled?.people.map((p) => people.get(p)?.name ?? "somebody").join(", ");
        return (
          <p key={seat.key} className="mt-1 flex gap-2">
            <span className="h-5 shrink-0 border border-ink px-1.5 text-xs leading-[18px]">
              {filled && (filled.needed > 1 || filled.people.length > 1)
                ? `${filled.needed} of ${filled.people.length}`
                : "1"}
            </span>
            <span>
              <b className="font-semibold">{seat.role}</b>: {names || "whoever signs the earlier step"}
            </span>
          </p>
        );
      })}
      {(step.checkpoints ?? []).length > 0 && (
        <p className="mt-1 text-soft">
          Asks: {step.checkpoints!.map((c) => `${c.text}${c.unit ? ` (${c.unit})` : ""}`).join("; ")}
        </p>
      )}
      {!!step.seenShare && (
        <p className="mt-1 text-soft">
          Whoever approves here has had {step.seenShare} % of each item before them at a legible size.
        </p>
      )}
      {step.marksApart && (
        <p className="mt-1 text-soft">What a signer draws here is seen by the others once they have signed.</p>
      )}
      {step.returnsTo && (
        <p className="text-soft">A return goes to “{stepsOf(plan).find((s) => s.key === step.returnsTo)?.name}”.</p>
      )}
      {told.length > 0 && <p className="text-soft">Others hear when {told.join(", when ")}.</p>}
    </section>
  );
}
