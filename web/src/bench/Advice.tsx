import { useQueryClient } from "@tanstack/react-query";
import { memo, useState } from "react";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import { useKept } from "../kept/useKept";
import type { PackageView } from "../api/types";
import { Button, Fault, Labelled } from "../ui/kit";
import { usePeople } from "../ui/people";
import { when } from "../ui/time";

/** Questions to people without a seat, and their answers. The seat stays its holder's. */
export const Advice = memo(function Advice({ p, canAsk }: { p: PackageView; canAsk: boolean }) {
  const me = useMe();
  const people = usePeople();
  const client = useQueryClient();
  const [asking, setAsking] = useState(false);
  const question = useKept(`asking advice on ${p.id}`, { of: "", words: "", note: "" });
  const { of, words, note } = question.value;
  const set = (patch: Partial<typeof question.value>) => question.set((was) => ({ ...was, ...patch }));
  const answers = useKept<Readonly<Record<string, string>>>(`advice on ${p.id}`, {});
  const asks = useAct(async (key) => {
    await api.post(`/packages/${p.id}/advice`, { of, question: words, note: note || null, key });
    question.discard();
    setAsking(false);
    await client.invalidateQueries();
  });
  const advises = useAct(async (key, advice: string) => {
    await api.post(`/advice/${advice}`, { words: answers.value[advice] ?? "", key });
    // Other questions may have begun answers.
    answers.set((was) => ({ ...was, [advice]: "" }));
    await client.invalidateQueries();
  });
  const asked = p.advice ?? [];
  if (!canAsk && asked.length === 0) return null;
  const seated = new Set(p.awaited.map((a) => a.person));
  return (
    <section
      tabIndex={-1}
      aria-label="Advice"
      className={`max-h-[24%] ${asked.length > 0 || asking ? "min-h-[64px] shrink-2" : "shrink-0"} overflow-y-auto border-t border-rule px-3.5 py-2.5`}
    >
      <div className="flex items-center justify-between">
        <h2 className="label">Advice</h2>
        {canAsk && !asking && (
          <button type="button" className="underline" onClick={() => setAsking(true)}>
            ask somebody
          </button>
        )}
      </div>
      {asked.map((a) => (
        <div key={a.id} className="mt-1.5 border-l-[3px] border-slate pl-2.5">
          <p>
            <b className="font-semibold">{a.askedBy === me.id ? "You" : people.get(a.askedBy)?.name}</b>{" "}
            <span className="text-soft">
              asked {a.askedOf === me.id ? "you" : people.get(a.askedOf)?.name}
              {a.note ? ` about note ${a.note}` : ""}, {when(a.at)}
            </span>
          </p>
          <p className="whitespace-pre-wrap">{a.question}</p>
          {a.answer && (
            <p className="mt-1 whitespace-pre-wrap">
              <b className="font-semibold">{a.askedOf === me.id ? "You" : people.get(a.askedOf)?.name}:</b> {a.answer}
            </p>
          )}
          {!a.answer && a.askedOf === me.id && (
            <form
              className="mt-1"
              onSubmit={(e) => {
                e.preventDefault();
                void advises.run(a.id);
              }}
            >
              <textarea
                className="field"
                rows={2}
                aria-label="Your advice"
                maxLength={4000}
                readOnly={advises.isBusy}
                value={answers.value[a.id] ?? ""}
                onChange={(e) => answers.set({ ...answers.value, [a.id]: e.target.value })}
              />
              <Button look="main" type="submit" disabled={advises.isBusy || !(answers.value[a.id] ?? "").trim()}>
                Give advice
              </Button>
            </form>
          )}
          {!a.answer && a.askedOf !== me.id && <p className="text-soft">not answered yet</p>}
        </div>
      ))}
      {asking && (
        <form
          className="mt-2"
          onSubmit={(e) => {
            e.preventDefault();
            void asks.run();
          }}
        >
          <Labelled label="Whom">
            <select className="field" value={of} autoFocus onChange={(e) => set({ of: e.target.value })}>
              <option value="">choose</option>
              {[...people.values()]
                .filter((x) => x.id !== me.id && !seated.has(x.id) && !x.barredAt)
                .map((x) => (
                  <option key={x.id} value={x.id}>
                    {x.name}
                  </option>
                ))}
            </select>
          </Labelled>
          {p.notes.length > 0 && (
            <Labelled label="About">
              <select className="field" value={note} onChange={(e) => set({ note: e.target.value })}>
                <option value="">the package</option>
                {p.notes.map((n) => (
                  <option key={n.id} value={n.id}>
                    {n.kind} {n.number}: {n.body.slice(0, 50)}
                  </option>
                ))}
              </select>
            </Labelled>
          )}
          <Labelled label="Question" hint="They see the package and answer; your seat stays yours.">
            <textarea
              className="field"
              rows={2}
              maxLength={4000}
              readOnly={asks.isBusy}
              value={words}
              onChange={(e) => set({ words: e.target.value })}
            />
          </Labelled>
          <div className="flex gap-2">
            <Button look="main" type="submit" disabled={asks.isBusy || !of || words.trim() === ""}>
              Ask
            </Button>
            <Button look="quiet" onClick={() => setAsking(false)}>
              Cancel
            </Button>
          </div>
        </form>
      )}
      <Fault>{asks.fault ?? advises.fault}</Fault>
    </section>
  );
});
