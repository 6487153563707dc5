import type { PackageView, Plan } from "../api/types";
import type { StripState } from "../ui/Strip";

/** A package's strip: the signatures of the running round in the seats of its plan. */
export function stripOf(p: PackageView): StripState {
  const round = p.signOffs.filter((s) => s.round === p.round);
  return {
    plan: p.slip.plan as unknown as Plan,
    seats: p.slip.seats.map((seat) => ({
      ...seat,
      signed: round
        .filter((s) => s.seat === seat.key)
        .map((s) => ({
          initials: s.initials,
          at: s.at,
          returns: s.verdicts.some((v) => v.verdict === "returnForChanges"),
        })),
    })),
    open: p.slip.open,
    passed: p.slip.passed,
    released: p.standing === "released",
    due: (step) => p.awaited.find((a) => a.step === step)?.due,
  };
}
