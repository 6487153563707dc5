import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { PlaceBar, useMe } from "../App";
import { api } from "../api/client";
import {
  stepsOf,
  workingDaysOf,
  type DocumentPage,
  type PersonGroup,
  type Plan,
  type PlanRow,
  type Preview,
} from "../api/types";
import { ForecastBars, Stalls } from "../plans/ForecastBars";
import { IntakeForm } from "./IntakeForm";
import { Formatted } from "../ui/Formatted";
import { Button, Empty, Fault, Labelled, StandingTag } from "../ui/kit";
import { usePeople } from "../ui/people";
import { Strip, type StripState } from "../ui/Strip";

/** A plan's strip before sending: every seat with the people who would fill it. */
function stripBefore(preview: Preview): StripState {
  return {
    plan: preview.plan as unknown as Plan,
    seats: preview.seats.map((s) => ({ ...s, signed: [] })),
    open: [],
    passed: [],
    released: false,
  };
}

export function Send() {
  const me = useMe();
  const people = usePeople();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const { data: page } = useQuery({
    queryKey: ["documents", "mine", me.name],
    queryFn: () => api.get<DocumentPage>(`/documents?search=${encodeURIComponent(me.name)}`),
  });
  const { data: plans } = useQuery({ queryKey: ["plans"], queryFn: () => api.get<PlanRow[]>("/plans") });
  const { data: groups } = useQuery({ queryKey: ["groups"], queryFn: () => api.get<PersonGroup[]>("/groups") });
  const [picked, setPicked] = useState<readonly string[]>(() => params.getAll("document"));
  const [planId, setPlanId] = useState<string | null>(null);
  const [title, setTitle] = useState("");
  const [note, setNote] = useState("");
  const [inform, setInform] = useState<readonly string[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // One key for this package however often the button is pressed.
  const key = useRef(crypto.randomUUID());
  const mine = useMemo(
    () => page?.rows.filter((d) => d.originator === me.id && d.standing === "in work") ?? [],
    [page, me],
  );
  const chosen = plans?.find((p) => p.id === planId) ?? plans?.find((p) => p.edition > 0);
  const plan = chosen?.plan as unknown as Plan | undefined;
  const [answers, setAnswers] = useState<Readonly<Record<string, string>>>({});
  const [chosenPeople, setChosenPeople] = useState<Readonly<Record<string, string>>>({});
  const { data: preview } = useQuery({
    queryKey: ["preview", chosen?.id, picked, answers, chosenPeople],
    queryFn: () =>
      api.post<Preview>("/plans/preview", {
        plan: null,
        planId: chosen!.id,
        documents: picked,
        answers,
        chosen: chosenPeople,
      }),
    enabled: chosen !== undefined,
    placeholderData: keepPreviousData,
  });
  const strip = useMemo(() => (preview ? stripBefore(preview) : null), [preview]);
  const openSeats = plan
    ? stepsOf(plan).flatMap((s) =>
        s.seats.flatMap((seat) => (seat.holder.holder === "chosen" ? [{ s, seat, group: seat.holder.group }] : [])),
      )
    : [];
  const first = strip
    ? [
        ...new Set(
          strip.seats
            .filter((s) => stepsOf(strip.plan)[0]?.seats.some((x) => x.key === s.key))
            .flatMap((s) => s.people),
        ),
      ]
    : [];
  const others = first.length - 1;
  const to =
    first.length > 0
      ? `Send to ${people.get(first[0]!)?.name.split(" ")[0] ?? ""}${others > 0 ? ` and ${others} other${others > 1 ? "s" : ""}` : ""}`
      : "Send";
  const toggle = (list: readonly string[], id: string) =>
    list.includes(id) ? list.filter((x) => x !== id) : [...list, id];

  const send = async () => {
    setBusy(true);
    setFault(null);
    try {
      const sent = await api.post<{ id: string }>("/packages", {
        key: key.current,
        title,
        note,
        plan: chosen!.id,
        documents: picked,
        inform,
        answers,
        chosen: chosenPeople,
      });
      await navigate(`/packages/${sent.id}`);
    } catch (e) {
      setFault((e as Error).message);
      setBusy(false);
    }
  };

  return (
    <>
      <PlaceBar title="Send for review" />
      <main className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
          <div className="max-w-[760px]">
            <h2 className="label mb-1">1 · Documents in work</h2>
            {page && mine.length === 0 && (
              <Empty title="No document of yours is in work">
                Register one, or upload the next draft of one, in the register.
              </Empty>
            )}
            <ul className="mb-6 border border-rule bg-raised">
              {mine.map((d) => (
                <li key={d.id} className="border-t border-rule first:border-t-0">
                  <label className="flex cursor-pointer items-center gap-3 px-3 py-1.5 hover:bg-picked">
                    <input
                      type="checkbox"
                      className="h-4 w-4 accent-spruce"
                      checked={picked.includes(d.id)}
                      onChange={() => setPicked(toggle(picked, d.id))}
                    />
                    <img
                      src={`/api/drafts/${d.draft}/sheets/0/small`}
                      alt=""
                      className="h-[38px] w-[54px] border border-rule bg-white object-contain"
                    />
                    <span className="font-mono text-sm">{d.number}</span>
                    <span className="font-mono text-sm text-soft">
                      {d.revision}.{d.ordinal}
                    </span>
                    <span className="min-w-0 flex-1 truncate font-medium">{d.title}</span>
                    <StandingTag standing={d.standing} />
                  </label>
                </li>
              ))}
            </ul>
            <h2 className="label mb-1">2 · Routing plan</h2>
            <div role="radiogroup" aria-label="Routing plan" className="mb-6 grid grid-cols-2 gap-3">
              {plans
                ?.filter((p) => p.edition > 0)
                .map((p) => {
                  const steps = stepsOf(p.plan as unknown as Plan);
                  const days = workingDaysOf(p.plan as unknown as Plan);
                  const isChosen = p.id === chosen?.id;
                  return (
                    <button
                      key={p.id}
                      type="button"
                      role="radio"
                      aria-checked={isChosen}
                      className={`border bg-raised px-3 py-2 text-left ${isChosen ? "border-spruce outline-1 outline-spruce" : "border-rule hover:border-soft"}`}
                      onClick={() => {
                        setPlanId(p.id);
                        setAnswers({});
                        setChosenPeople({});
                      }}
                    >
                      <span className="font-semibold">{p.name}</span>
                      <span className="block text-soft">{p.purpose}</span>
                      <span className="mt-1 block text-sm text-soft">
                        {steps.length} steps, {steps.reduce((n, s) => n + s.seats.length, 0)} seats, at most {days}{" "}
                        working days
                      </span>
                    </button>
                  );
                })}
            </div>
            <h2 className="label mb-1">3 · What it is for</h2>
            <Labelled label="Title">
              <input
                className="field"
                value={title}
                maxLength={200}
                placeholder="Bearing housing to G7 seals"
                onChange={(e) => setTitle(e.target.value)}
              />
            </Labelled>
            <Labelled label="Covering note" hint="Everyone who signs reads this first.">
              <textarea
                className="field"
                rows={3}
                value={note}
                maxLength={4000}
                onChange={(e) => setNote(e.target.value)}
              />
            </Labelled>
            {plan && (plan.form ?? []).length > 0 && (
              <IntakeForm form={plan.form!} answers={answers} documents={page?.rows ?? []} onChange={setAnswers} />
            )}
            {openSeats.map(({ s, seat, group }) => (
              <Labelled key={seat.key} label={`Who signs as ${seat.role} in “${s.name}”`}>
                <select
                  className="field"
                  value={chosenPeople[seat.key] ?? ""}
                  onChange={(e) => setChosenPeople({ ...chosenPeople, [seat.key]: e.target.value })}
                >
                  <option value="">choose</option>
                  {(groups?.find((g) => g.id === group)?.members ?? []).map((m) => (
                    <option key={m} value={m}>
                      {people.get(m)?.name}
                    </option>
                  ))}
                </select>
              </Labelled>
            ))}
            <fieldset>
              <legend className="label mb-1">People to inform of the release</legend>
              <div className="flex flex-wrap gap-1.5">
                {[...people.values()]
                  .filter((p) => p.id !== me.id)
                  .map((p) => (
                    <label
                      key={p.id}
                      className={`cursor-pointer rounded-full border px-2.5 py-0.5 has-focus-visible:outline-2 ${inform.includes(p.id) ? "border-spruce bg-spruce-soft" : "border-[#c9c4b5]"}`}
                    >
                      <input
                        type="checkbox"
                        className="sr-only"
                        checked={inform.includes(p.id)}
                        onChange={() => setInform(toggle(inform, p.id))}
                      />
                      {inform.includes(p.id) ? "✓ " : ""}
                      {p.name}
                    </label>
                  ))}
              </div>
            </fieldset>
          </div>
        </div>
        <aside aria-label="The route" className="flex w-[420px] shrink-0 flex-col border-l border-rule bg-raised">
          <div className="flex-1 overflow-y-auto p-4">
            <h2 className="label mb-2">The route</h2>
            {strip && <Strip state={strip} me={me.id} people={people} />}
            {preview && (
              <div className="mt-4">
                <ForecastBars preview={preview} labels={3} />
                <div className="mt-3">
                  <Stalls preview={preview} nameOf={(p) => people.get(p)?.name ?? "somebody"} />
                </div>
              </div>
            )}
            {strip &&
              stepsOf(strip.plan).map((s) => (
                <section key={s.key} className="mt-4">
                  <div className="flex justify-between">
                    <h3 className="font-semibold">{s.name}</h3>
                    <span className="text-soft">
                      {s.workingDays} working {s.workingDays === 1 ? "day" : "days"}
                    </span>
                  </div>
                  <div className="text-soft">
                    <Formatted text={s.instruction} />
                  </div>
                  {s.seats.map((seat) => {
                    const filled = strip.seats.find((x) => x.key === seat.key);
                    if (!filled) return null;
                    return (
                      <p key={seat.key} className="mt-1 flex gap-2">
                        <span className="h-5 shrink-0 border border-ink px-1.5 text-xs leading-[18px]">
                          {filled.needed > 1 || filled.people.length > 1
                            ? `${filled.needed} of ${filled.people.length}`
                            : "1"}
                        </span>
                        <span>
                          <b className="font-semibold">{seat.role}</b>:{" "}
                          {filled.people.map((p) => people.get(p)?.name).join(", ")}
                        </span>
                      </p>
                    );
                  })}
                </section>
              ))}
          </div>
          <div className="border-t border-rule p-4">
            <Fault>{fault}</Fault>
            <p className="mb-2 text-soft">
              {picked.length === 0
                ? "Choose at least one document."
                : !title.trim()
                  ? "Give the package a title."
                  : preview?.refusal
                    ? preview.refusal
                    : `${picked.length === 1 ? "1 document, as it is" : `${picked.length} documents, as they are`} now, byte for byte.`}
            </p>
            <Button
              look="main"
              disabled={busy || picked.length === 0 || !title.trim() || !chosen || !!preview?.refusal}
              onClick={() => void send()}
            >
              {busy ? "Sending …" : to}
            </Button>
          </div>
        </aside>
      </main>
    </>
  );
}
