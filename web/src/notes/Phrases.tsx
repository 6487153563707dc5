import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { newKey } from "../api/key";
import { useAct } from "../api/useAct";
import type { Phrase } from "../api/types";
import { Awaited } from "../ui/Awaited";
import { Button, Fault } from "../ui/kit";
import { useKeptPhrases } from "./usePhrases";

/** Frequent wordings, kept and taken out: the office's, or one's own. */
export function Phrases({ isOffice, mayChange }: { isOffice: boolean; mayChange: boolean }) {
  const kept = useKeptPhrases();
  const all = kept.data?.filter((p) => p.isOffice === isOffice);
  return (
    <>
      {mayChange && <Awaited what="the wordings" of={kept} />}
      {all?.length === 0 && <p className="py-2 text-soft">None yet.</p>}
      <ul>
        {all?.map((p) => (
          <Kept key={p.id} p={p} mayChange={mayChange} />
        ))}
      </ul>
      {mayChange && <NewPhrase isOffice={isOffice} />}
    </>
  );
}

function Kept({ p, mayChange }: { p: Phrase; mayChange: boolean }) {
  const client = useQueryClient();
  const [words, setWords] = useState<string | null>(null);
  const again = () => client.invalidateQueries({ queryKey: ["phrases"] });
  const keeping = useAct(async () => {
    await api.put(`/phrases/${p.id}`, { words: words ?? "", isOffice: p.isOffice });
    setWords(null);
    await again();
  });
  const removing = useAct(async () => {
    await api.delete(`/phrases/${p.id}`);
    await again();
  });
  return (
    <li className="border-b border-rule py-2">
      {words === null ? (
        <div className="flex items-start gap-2">
          <span className="min-w-0 flex-1 break-words whitespace-pre-wrap" dir="auto">
            {p.words}
          </span>
          {mayChange && (
            <>
              <Button look="quiet" onClick={() => setWords(p.words)} aria-label={`Change “${p.words}”`}>
                Change
              </Button>
              <Button
                look="quiet"
                disabled={removing.isBusy}
                onClick={() => void removing.run()}
                aria-label={`Take out “${p.words}”`}
              >
                Take out
              </Button>
            </>
          )}
        </div>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void keeping.run();
          }}
        >
          <textarea
            className="field"
            rows={2}
            autoFocus
            maxLength={500}
            dir="auto"
            aria-label="Wording"
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          <span className="mt-1 flex gap-2">
            <Button look="main" type="submit" disabled={keeping.isBusy || !words.trim()}>
              Keep
            </Button>
            <Button look="quiet" onClick={() => setWords(null)}>
              Cancel
            </Button>
          </span>
        </form>
      )}
      <Fault>{keeping.fault || removing.fault}</Fault>
    </li>
  );
}

function NewPhrase({ isOffice }: { isOffice: boolean }) {
  const client = useQueryClient();
  const [words, setWords] = useState("");
  const [id, setId] = useState(newKey);
  const adding = useAct(async () => {
    await api.put(`/phrases/${id}`, { words, isOffice });
    setId(newKey());
    setWords("");
    await client.invalidateQueries({ queryKey: ["phrases"] });
  });
  return (
    <form
      className="mt-3"
      onSubmit={(e) => {
        e.preventDefault();
        void adding.run();
      }}
    >
      <textarea
        className="field"
        rows={2}
        maxLength={500}
        dir="auto"
        aria-label="Another wording"
        placeholder="Another wording; ___ is a blank to be filled"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      <Button type="submit" disabled={adding.isBusy || !words.trim()}>
        Add
      </Button>
      <Fault>{adding.fault}</Fault>
    </form>
  );
}
