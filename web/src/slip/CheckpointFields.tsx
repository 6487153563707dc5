import type { Checkpoint } from "../api/types";
import { Labelled } from "../ui/kit";

type Answers = Readonly<Record<string, string>>;

/** What a step asks its signers to answer. */
export function CheckpointFields({
  points,
  answers,
  hint,
  onChange,
}: {
  points: readonly Checkpoint[];
  answers: Answers;
  hint?: string;
  onChange: (answers: Record<string, string>) => void;
}) {
  return points.map((c) => {
    const set = (value: string) => onChange({ ...answers, [c.key]: value });
    return (
      <Labelled
        key={c.key}
        hint={hint}
        label={`${c.text}${c.unit ? `, ${c.unit}` : ""}${c.must ? " (must be answered)" : ""}`}
      >
        {c.kind === "yesNo" ? (
          <select className="field" value={answers[c.key] ?? ""} onChange={(e) => set(e.target.value)}>
            <option value="">choose</option>
            <option value="yes">yes</option>
            <option value="no">no</option>
          </select>
        ) : (
          <input
            className="field"
            inputMode={c.kind === "number" ? "decimal" : undefined}
            value={answers[c.key] ?? ""}
            onChange={(e) => set(e.target.value)}
          />
        )}
      </Labelled>
    );
  });
}
