import { blocksOf, lanesOf, type Block, type Choice, type Plan, type Sequence, type Step } from "../api/types";

/** Changes to a plan's tree. Every function gives a new plan; the old one is the step back of undo. */

/** Stands where nobody and nothing was chosen yet. */
export const NOBODY = "00000000-0000-0000-0000-000000000000";

/** A key that the plan does not use yet: "step-3". */
export function freeKey(plan: Plan, stem: string): string {
  const used = new Set(
    blocksOf(plan).flatMap((b) =>
      b.block === "step"
        ? [b.key, ...b.seats.map((s) => s.key)]
        : b.block === "choice"
          ? [b.key, ...b.ways.map((w) => w.key)]
          : [],
    ),
  );
  (plan.form ?? []).forEach((f) => used.add(f.key));
  let n = 1;
  while (used.has(`${stem}-${n}`)) n++;
  return `${stem}-${n}`;
}

export function newStep(plan: Plan, name = "New step"): Step {
  return {
    block: "step",
    key: freeKey(plan, "step"),
    name,
    instruction: "",
    workingDays: 1,
    seats: [{ key: freeKey(plan, "seat"), role: "Signer", holder: { holder: "originator" } }],
  };
}

/** Replaces the cell with this key by the blocks given: none removes it, two put one beside it in its row. */
function replace(row: readonly Block[], key: string, by: (b: Block) => Block[]): Block[] {
  return row.flatMap((b): Block[] => {
    if ((b.block === "step" || b.block === "choice") && b.key === key) return by(b);
    const into = (s: Sequence): Sequence => ({ ...s, blocks: replace(s.blocks, key, by) });
    switch (b.block) {
      case "step":
        return [b];
      case "sequence":
        return [into(b) as Block];
      case "parallel":
        return tidy({ ...b, branches: b.branches.map(into) });
      case "choice":
        return [{ ...b, ways: b.ways.map((w) => ({ ...w, blocks: into(w.blocks) })) }];
    }
  });
}

/** A branch left without a cell goes; branches left alone are a row again. */
function tidy(b: Extract<Block, { block: "parallel" }>): Block[] {
  const branches = b.branches.filter((x) => x.blocks.length > 0);
  return branches.length > 1 ? [{ ...b, branches }] : (branches[0]?.blocks ?? []);
}

const change = (plan: Plan, key: string, by: (b: Block) => Block[]): Plan => ({
  ...plan,
  root: { ...plan.root, blocks: replace(plan.root.blocks, key, by) },
});

export const update = <T extends Step | Choice>(plan: Plan, key: string, patch: Partial<T>): Plan =>
  change(plan, key, (b) => [{ ...b, ...patch } as Block]);

export const remove = (plan: Plan, key: string): Plan => change(plan, key, () => []);

/** A block after a cell; at the end when no cell is named. */
export const addAfter = (plan: Plan, key: string | null, block: Block): Plan =>
  key === null
    ? { ...plan, root: { ...plan.root, blocks: [...plan.root.blocks, block] } }
    : change(plan, key, (b) => [b, block]);

/** A step in a branch of its own below a cell: in the parallel that holds the cell, or in a new one. */
export function addBelow(plan: Plan, key: string, step: Step): Plan {
  const parallel = blocksOf(plan).find(
    (b) =>
      b.block === "parallel" &&
      b.branches.some((x) => x.blocks.some((c) => (c.block === "step" || c.block === "choice") && c.key === key)),
  );
  if (parallel?.block !== "parallel")
    return change(plan, key, (b) => [{ block: "parallel", branches: [{ blocks: [b] }, { blocks: [step] }] }]);
  const at = parallel.branches.findIndex((x) =>
    x.blocks.some((c) => (c.block === "step" || c.block === "choice") && c.key === key),
  );
  const wider: Block = {
    ...parallel,
    branches: [...parallel.branches.slice(0, at + 1), { blocks: [step] }, ...parallel.branches.slice(at + 1)],
  };
  const swap = (b: Block): Block => {
    if (b === parallel) return wider;
    const into = (s: Sequence): Sequence => ({ ...s, blocks: s.blocks.map(swap) });
    switch (b.block) {
      case "step":
        return b;
      case "sequence":
        return into(b) as Block;
      case "parallel":
        return { ...b, branches: b.branches.map(into) };
      case "choice":
        return { ...b, ways: b.ways.map((w) => ({ ...w, blocks: into(w.blocks) })) };
    }
  };
  return { ...plan, root: { ...plan.root, blocks: plan.root.blocks.map(swap) } };
}

export function newChoice(plan: Plan): Choice {
  const step = newStep(plan);
  return {
    block: "choice",
    key: freeKey(plan, "choice"),
    name: "Which way?",
    ways: [
      {
        key: freeKey(plan, "way"),
        name: "Yes",
        rule: { any: false, conditions: [{ subject: "size", field: "", comparison: "moreThan", value: "1" }] },
        blocks: { blocks: [step] },
      },
      { key: `${freeKey(plan, "way")}-else`, name: "Otherwise", rule: null, blocks: { blocks: [] } },
    ],
  };
}

/** A step at the end of a way. */
export function addToWay(plan: Plan, choice: string, way: string, step: Step): Plan {
  return change(plan, choice, (b) => [
    b.block === "choice"
      ? {
          ...b,
          ways: b.ways.map((w) => (w.key === way ? { ...w, blocks: { blocks: [...w.blocks.blocks, step] } } : w)),
        }
      : b,
  ]);
}

/** A way before the otherwise-way. */
export function addWay(plan: Plan, choice: Choice): Plan {
  const way = {
    key: freeKey(plan, "way"),
    name: "Another way",
    rule: {
      any: false,
      conditions: [{ subject: "size" as const, field: "", comparison: "moreThan" as const, value: "5" }],
    },
    blocks: { blocks: [] },
  };
  return update<Choice>(plan, choice.key, { ways: [...choice.ways.slice(0, -1), way, ...choice.ways.slice(-1)] });
}

/** Keys of the cells one meets going through the plan, for the arrow keys. */
export const cells = (plan: Plan): string[] =>
  blocksOf(plan).flatMap((b) => (b.block === "step" || b.block === "choice" ? [b.key] : []));

/** The cell that one is at when this one is removed: the one before it, or else the one after; null where it is the last. */
export function cellBeside(plan: Plan, key: string): string | null {
  const left = cells(remove(plan, key));
  const [order, at] = [cells(plan), cells(plan).indexOf(key)];
  return order.slice(0, at).findLast((k) => left.includes(k)) ?? left[0] ?? null;
}

/** Steps that stand before a cell on every way to it: what it may refer to. */
export function stepsBefore(plan: Plan, key: string): Step[] {
  const search = (row: readonly Block[], before: Step[]): Step[] | null => {
    let passed = before;
    for (const b of row) {
      if ((b.block === "step" || b.block === "choice") && b.key === key) return passed;
      for (const lane of lanesOf(b)) {
        const found = search(lane.blocks, passed);
        if (found) return found;
      }
      passed = [...passed, ...sure(b)];
    }
    return null;
  };
  const sure = (b: Block): Step[] =>
    b.block === "step" ? [b] : b.block === "choice" ? [] : lanesOf(b).flatMap((x) => x.blocks.flatMap(sure));
  return search(plan.root.blocks, []) ?? [];
}

/** Ready patterns to start from. */
export function patterns(): { name: string; what: string; plan: Plan }[] {
  const step = (n: number, name: string, role: string): Step => ({
    block: "step",
    key: `step-${n}`,
    name,
    instruction: "",
    workingDays: 2,
    seats: [{ key: `seat-${n}`, role, holder: { holder: "person", person: NOBODY } }],
  });
  const plan = (name: string, blocks: Block[]): Plan => ({
    name,
    purpose: "",
    root: { blocks },
    form: [],
    closing: [],
  });
  const beside = (...rows: Step[]): Block => ({ block: "parallel", branches: rows.map((r) => ({ blocks: [r] })) });
  return [
    { name: "One step", what: "One person signs.", plan: plan("One step", [step(1, "Approve", "Approver")]) },
    {
      name: "Two steps",
      what: "A checker, then an approver.",
      plan: plan("Two steps", [step(1, "Check", "Checker"), step(2, "Approve", "Approver")]),
    },
    {
      name: "Three steps",
      what: "A checker, a lead, then an approver.",
      plan: plan("Three steps", [
        step(1, "Check", "Checker"),
        step(2, "Discipline", "Lead"),
        step(3, "Approve", "Approver"),
      ]),
    },
    {
      name: "All at once",
      what: "Three disciplines side by side.",
      plan: plan("All at once", [
        beside(
          step(1, "First discipline", "First"),
          step(2, "Second discipline", "Second"),
          step(3, "Third discipline", "Third"),
        ),
      ]),
    },
    {
      name: "Checker, disciplines, chief",
      what: "A checker, then disciplines side by side, then the chief.",
      plan: plan("Checker, disciplines, chief", [
        step(1, "Check", "Checker"),
        beside(step(2, "First discipline", "First"), step(3, "Second discipline", "Second")),
        step(4, "Chief", "Chief"),
      ]),
    },
    { name: "Empty", what: "Nothing yet.", plan: plan("New plan", []) },
  ];
}
