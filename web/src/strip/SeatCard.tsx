import { Popover } from "radix-ui";
import type { Person, Seat, Step } from "../api/types";
import { Formatted } from "../ui/Formatted";
import { exactly } from "../ui/time";
import { kindOf, type SeatState, type StripState } from "./state";

type Props = {
  step: Step;
  seat: Seat;
  filled: SeatState;
  /** The cell it floats at. */
  at: HTMLElement;
  state: StripState;
  people: ReadonlyMap<string, Person>;
  onStay: () => void;
  onLeave: () => void;
  onClose: () => void;
};

/** All about one seat: what its step asks, who holds it, who signed and what they said, when it is expected. */
export function SeatCard({ step, seat, filled, at, state, people, onStay, onLeave, onClose }: Props) {
  const kind = kindOf(state, step, filled);
  const due = state.due?.(step.key);
  const names = filled.people.map((p) => people.get(p)?.name ?? "").join(", ");
  const coming = kind === "empty" ? state.projected?.(step.key) : undefined;
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor virtualRef={{ current: at }} />
      <Popover.Portal>
        <Popover.Content
          role="note"
          aria-label={`${step.name}, ${seat.role}, in full`}
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-h-(--radix-popover-content-available-height) w-80 overflow-y-auto rounded-md border border-rule bg-raised p-3 shadow-lg"
          onOpenAutoFocus={(e) => e.preventDefault()}
          onCloseAutoFocus={(e) => e.preventDefault()}
          onPointerEnter={onStay}
          onPointerLeave={onLeave}
        >
          <p className="flex justify-between gap-3">
            <b className="font-semibold">{step.name}</b>
            <span className="text-soft">
              {step.workingDays} {step.workingDays === 1 ? "day" : "days"} allowed
            </span>
          </p>
          <div className="mt-1">
            <Formatted text={step.instruction} />
          </div>
          <p className="mt-2">
            <span className="label">{seat.role}</span> {names || "whoever signs the earlier step"}
            {filled.people.length > 1 && `, ${filled.needed} of ${filled.people.length}`}
          </p>
          {filled.signed.map((g, i) => (
            <div key={i} className={`mt-2 border-l-[3px] pl-2 ${g.returns ? "border-rust" : "border-ink"}`}>
              <b className="font-semibold">{g.name ?? g.initials}</b>{" "}
              <span className="text-soft">
                {g.returns ? "returned" : "signed"} {exactly(g.at)}
              </span>
              {g.words?.map((w, k) => (
                <p key={k}>{w}</p>
              ))}
            </div>
          ))}
          {kind === "open" && (
            <p className="mt-2 text-soft">
              {state.since?.(step.key) && `Awaited since ${exactly(state.since(step.key)!)}. `}
              {due && `Due ${exactly(due.due)}.`}
            </p>
          )}
          {coming?.prospect === "signed" && (
            <p className="mt-2 text-soft">
              Expected to open {exactly(coming.arrives)} and to pass by {exactly(coming.finishes)}.
            </p>
          )}
          {coming && coming.prospect !== "signed" && coming.because && (
            <p className="mt-2 text-soft">
              {coming.prospect === "automatic" ? "Passes by itself: " : "Not on this way: "}
              {coming.because}
            </p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
