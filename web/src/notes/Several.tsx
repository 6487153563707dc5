import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import type { DraftOverlay, NoteAct, NoteRow, PackageView } from "../api/types";
import { Button, Fault } from "../ui/kit";

type Props = {
  p: PackageView;
  draft: string;
  /** Those that are ticked. */
  notes: readonly NoteRow[];
  count: number;
  /** One's own overlays on the draft. */
  own: readonly DraftOverlay[];
  onAll: () => void;
  onMove: (marks: readonly string[], overlay: string) => void;
  onDone: () => void;
};

const acts: readonly { act: NoteAct; verb: string; done: string }[] = [
  { act: "close", verb: "Close", done: "closed" },
  { act: "reopen", verb: "Reopen", done: "reopened" },
  { act: "withdraw", verb: "Withdraw", done: "withdrawn" },
];

/** Several notes at once: what can be done to some of them is done to those, with the same words, and what was refused is said. */
export function Several({ p, draft, notes, count, own, onAll, onMove, onDone }: Props) {
  const client = useQueryClient();
  const [words, setWords] = useState("");
  const [said, setSaid] = useState("");
  const doing = useAct(async (key, act: NoteAct, done: string) => {
    const may = notes.filter((n) => n.may.includes(act));
    const refused: string[] = [];
    for (const n of may)
      await api
        // Each has its own answer; the second part of the key is the note's, so that a repeated press does nothing twice.
        .post(`/notes/${n.id}/acts`, { act, answer: null, body: words, key: keyFor(key, n.id), mentions: null })
        .catch((e: unknown) => refused.push(`${n.number}: ${(e as Error).message}`));
    await client.invalidateQueries({ queryKey: ["package", p.id] });
    if (refused.length < may.length) setWords("");
    setSaid([`${may.length - refused.length} ${done}.`, ...refused].join(" "));
  });
  const marks = notes.flatMap((n) =>
    n.marks.filter((m) => m.draft === draft && own.some((o) => o.id === m.overlay)).map((m) => m.id),
  );
  return (
    <div className="border-y border-rule bg-lit px-3.5 py-2">
      <p className="flex items-baseline gap-2">
        {notes.length} of {count} ticked
        <button type="button" className="min-h-6 underline" onClick={onAll}>
          All
        </button>
        <button type="button" className="ml-auto min-h-6 underline" onClick={onDone}>
          Done
        </button>
      </p>
      {notes.length > 0 && (
        <>
          <input
            className="field my-1.5"
            aria-label="Words for all of them"
            placeholder="Words for all of them, such as what you found"
            maxLength={4000}
            dir="auto"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          <div className="flex flex-wrap gap-2">
            {acts.map(({ act, verb, done }) => {
              const n = notes.filter((x) => x.may.includes(act)).length;
              return (
                n > 0 && (
                  <Button key={act} disabled={doing.isBusy} onClick={() => void doing.run(act, done)}>
                    {verb} {n}
                  </Button>
                )
              );
            })}
            {marks.length > 0 && own.length > 1 && (
              <select
                className="field w-auto py-0.5"
                aria-label="Move their places to another overlay"
                value=""
                onChange={(e) => onMove(marks, e.target.value)}
              >
                <option value="">Move places to …</option>
                {own.map((o) => (
                  <option key={o.id} value={o.id}>
                    {o.name}
                  </option>
                ))}
              </select>
            )}
          </div>
        </>
      )}
      <p role="status" className="text-sm text-soft">
        {said}
      </p>
      <Fault>{doing.fault}</Fault>
    </div>
  );
}

/** A key for one note of several that are acted on by one press: the press's first half and the note's second. */
const keyFor = (press: string, note: string) => press.slice(0, 18) + note.slice(18);
