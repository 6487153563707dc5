import { planOf, type PackageRow, type PackageView } from "../api/types";
import type { StripState } from "./state";

/** A package's strip: the signatures of the round under way in the seats of its plan. */
export function stripOf(p: PackageView): StripState {
  const round = p.signOffs.filter((s) => s.stands);
  return {
    plan: planOf(p.slip),
    seats: p.slip.seats.map((seat) => ({
      ...seat,
      signed: round
        .filter((s) => s.seat === seat.key)
        .map((s) => ({
          initials: s.initials,
          at: s.at,
          // Item by item, a returned item leaves the package and its verdict with it.
          returns: s.verdicts.some((v) => v.verdict === "returnForChanges" && p.items.some((i) => i.draft === v.draft)),
          name: s.name,
          words: [s.remark, ...new Set(s.verdicts.map((v) => v.reason))].filter((w) => w !== ""),
        })),
    })),
    open: p.slip.open,
    passed: p.slip.passed,
    released: p.standing === "released",
    taken: Object.fromEntries((p.slip.taken ?? []).map((t) => [t.choice, t.way])),
    due: (step) => p.awaited.find((a) => a.step === step),
    since: (step) => p.awaited.find((a) => a.step === step)?.since,
    projected: (step) => p.forecast?.steps.find((s) => s.step === step),
  };
}

/** The strip of a package in a list. */
export function rowStrip(row: PackageRow): StripState {
  return {
    plan: planOf(row.slip),
    seats: row.slip.seats.map((s) => ({ ...s, signed: row.signed.filter((g) => g.seat === s.key) })),
    open: row.slip.open,
    passed: row.slip.passed,
    released: row.standing === "released",
    taken: Object.fromEntries((row.slip.taken ?? []).map((t) => [t.choice, t.way])),
  };
}
