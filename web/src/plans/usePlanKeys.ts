import type { Plan } from "../api/types";
import { useCommands } from "../commands/registry";
import { addAfter, addBelow, cellBeside, cells, newChoice, newStep, remove } from "./edit";

type Acts = {
  plan: Plan;
  picked: string | null;
  setPicked: (key: string | null) => void;
  /** Picks a cell and gives it the keys. */
  pick: (key: string | null) => void;
  change: (plan: Plan) => void;
  undo: (() => void) | null;
  redo: (() => void) | null;
};

/** What can be done in the plan editor by key, while the plan has the keys, or from the list of commands. */
export function usePlanKeys({ plan, picked, setPicked, pick, change, undo, redo }: Acts) {
  const order = cells(plan);
  const at = picked ? order.indexOf(picked) : -1;
  const onCell = picked !== null && at >= 0 ? picked : null;
  const goTo = (to: string | undefined) => (to ? () => pick(to) : null);
  useCommands("Plan", "plan", [
    {
      id: "undo",
      words: "Undo",
      keys: [{ key: "z", ctrl: true, shift: false }],
      run: undo,
    },
    {
      id: "redo",
      words: "Redo",
      keys: [
        { key: "z", ctrl: true, shift: true },
        { key: "y", ctrl: true },
      ],
      run: redo,
    },
    { id: "next", words: "Next cell", keys: [{ key: "ArrowRight" }, { key: "ArrowDown" }], run: goTo(order[at + 1]) },
    { id: "last", words: "Cell before", keys: [{ key: "ArrowLeft" }, { key: "ArrowUp" }], run: goTo(order[at - 1]) },
    {
      id: "edit",
      words: "Edit the cell",
      keys: [{ key: "Enter" }],
      leftTo: "button:not([data-cell]), a",
      run: onCell ? () => document.getElementById("cell-name")?.focus() : null,
    },
    { id: "leave", words: "Plan and form", keys: [{ key: "Escape" }], run: onCell ? () => setPicked(null) : null },
    {
      id: "after",
      words: "Step after",
      keys: [{ key: "a" }],
      run: () => {
        const step = newStep(plan);
        change(addAfter(plan, onCell, step));
        setPicked(step.key);
      },
    },
    {
      id: "below",
      words: "Step parallel, below",
      keys: [{ key: "p" }],
      run: onCell
        ? () => {
            const step = newStep(plan);
            change(addBelow(plan, onCell, step));
            setPicked(step.key);
          }
        : null,
    },
    {
      id: "choice",
      words: "Choice after",
      keys: [{ key: "o" }],
      run: () => {
        const choice = newChoice(plan);
        change(addAfter(plan, onCell, choice));
        setPicked(choice.key);
      },
    },
    {
      id: "remove",
      words: "Remove the cell",
      keys: [{ key: "Delete" }],
      run: onCell
        ? () => {
            change(remove(plan, onCell));
            setPicked(cellBeside(plan, onCell));
          }
        : null,
    },
  ]);
}
