import type { Plan, Step, TimeLeft } from "../api/types";

/** What the strip needs to know of one seat. */
export type SeatState = {
  key: string;
  needed: number;
  people: readonly string[];
  signed: readonly { initials: string; at: string; returns: boolean; name?: string; words?: readonly string[] }[];
  skipped?: boolean;
};
export type StripState = {
  plan: Plan;
  seats: readonly SeatState[];
  open: readonly string[];
  passed: readonly string[];
  released: boolean;
  /** The way each choice took, by its key. */
  taken?: Readonly<Record<string, string>>;
  due?: (step: string) => { due: string; left: TimeLeft } | undefined;
  /** Since when an open step waits. */
  since?: (step: string) => string | undefined;
  /** When a step to come will open and pass, as far as can be foreseen. */
  projected?: (step: string) => { arrives: string; finishes: string; prospect: string; because: string } | undefined;
};

export type CellKind = "signed" | "open" | "returned" | "empty";

/** What a cell shows. */
export function kindOf(state: StripState, step: Step, seat: SeatState): CellKind {
  if (seat.signed.some((s) => s.returns)) return "returned";
  if (seat.signed.length >= seat.needed || state.passed.includes(step.key)) return "signed";
  return state.open.includes(step.key) ? "open" : "empty";
}
