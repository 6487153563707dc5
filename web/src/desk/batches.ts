import { planOf, stepsOf, type PackageRow, type Step } from "../api/types";

export type Batch = { step: Step; rows: PackageRow[] };

/** Packages that stand at the same step and hold one's own seat there: they can be signed at once. */
export function batches(rows: readonly PackageRow[], me: string): Batch[] {
  const found = new Map<string, Batch>();
  for (const row of rows) {
    const step = stepsOf(planOf(row.slip)).find((s) => s.key === row.step);
    if (!step || !seatOf(row, step, me)) continue;
    const key = `${planOf(row.slip).name} ${step.key}`;
    const batch = found.get(key) ?? { step, rows: [] };
    batch.rows.push(row);
    found.set(key, batch);
  }
  return [...found.values()].filter((b) => b.rows.length > 1);
}

export const seatOf = (row: PackageRow, step: Step, me: string) =>
  step.seats.find((s) => row.slip.seats.find((f) => f.key === s.key)?.people.includes(me))?.key;

/** What one has looked at: the drafts one has had open, and how much one has seen of those where a step asks for a share. */
export type Looked = { opened: readonly string[]; seen: readonly { draft: string; percent: number }[] };
