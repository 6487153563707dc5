import { keepPreviousData, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { newKey } from "../api/key";
import {
  stepsOf,
  workingDaysOf,
  type DocumentDetail,
  type DocumentRow,
  type OneOfMany,
  type Preview,
  type Remedy,
  type Stall,
  type Telling,
  planOf,
} from "../api/types";
import { usePages } from "../lists/listing";
import { ForecastBars, Stalls } from "../slip/ForecastBars";
import { PlanReading } from "../slip/PlanReading";
import { Absences } from "../absences/Absences";
import { nothingSaid, WhoHears } from "../slip/WhoHears";
import { DocumentPicker } from "./DocumentPicker";
import { IntakeForm } from "../slip/IntakeForm";
import { Told } from "./Told";
import { Unsettled } from "./Unsettled";
import { Button, Fault, Labelled, Tick } from "../ui/kit";
import { usePeople } from "../ui/people";
import type { StripState } from "../strip/state";
import { Strip } from "../strip/Strip";

/** A plan's strip before sending: every seat with the people who would fill it. */
function stripBefore(preview: Preview): StripState {
  return {
    plan: planOf(preview),
    seats: preview.seats.map((s) => ({ ...s, signed: [] })),
    open: [],
    passed: [],
    released: false,
  };
}

const rowsOf = (all: readonly { data: DocumentDetail | undefined }[]): DocumentRow[] =>
  all.flatMap((q) => (q.data ? [q.data.document] : []));

export function Send() {
  const me = useMe();
  const people = usePeople();
  const navigate = useNavigate();
  const client = useQueryClient();
  const [params] = useSearchParams();
  const [words, setWords] = useState("");
  const [others, setOthers] = useState(false);
  const by = others ? undefined : me.id;
  const own = usePages(["documents", "in work", by ?? "", words], (after) =>
    api.get("/documents", { originator: by, standing: "in work", search: words, after }),
  );
  const { data: plans } = useQuery({ queryKey: ["plans"], queryFn: () => api.get("/plans") });
  const { data: groups } = useQuery({ queryKey: ["groups"], queryFn: () => api.get("/groups") });
  const [picked, setPicked] = useState<readonly string[]>(() => params.getAll("document"));
  const { data: fits } = useQuery({
    queryKey: ["fitting", picked],
    queryFn: () => api.post("/plans/fitting", { documents: picked }),
    placeholderData: keepPreviousData,
  });
  const { data: prepared } = useQuery({
    queryKey: ["prepared"],
    queryFn: () => api.get("/prepared"),
  });
  const [aside, setAside] = useState<string | null>(null);
  const [apart, setApart] = useState(false);
  const [sent, setSent] = useState<readonly OneOfMany[]>([]);
  const [told, setTold] = useState<Readonly<Record<string, readonly string[]>>>({});
  const [deputyFor, setDeputyFor] = useState<string | null>(null);
  const [planId, setPlanId] = useState<string | null>(null);
  const [title, setTitle] = useState("");
  const [note, setNote] = useState("");
  const [say, setSay] = useState(nothingSaid);
  const [inform, setInform] = useState<readonly string[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // One key for this package however often the button is pressed.
  const key = useRef(newKey());
  const mine = useMemo(() => own.data ?? [], [own.data]);
  // What is picked is known whatever is searched for, and also when it came with the address or a prepared package.
  const pickedRows = useQueries({
    queries: picked.map((id) => ({
      queryKey: ["document", id],
      queryFn: () => api.get(`/documents/${id}`),
    })),
    combine: rowsOf,
  });
  const known = useMemo(
    () => new Map<string, DocumentRow>([...mine, ...pickedRows].map((d) => [d.id, d])),
    [mine, pickedRows],
  );
  const likely = fits?.find((f) => !f.misfit) ?? fits?.[0];
  const chosen = plans?.find((p) => p.id === planId) ?? plans?.find((p) => p.id === likely?.id);
  const plan = chosen && planOf(chosen);
  const [answers, setAnswers] = useState<Readonly<Record<string, string>>>({});
  const [chosenPeople, setChosenPeople] = useState<Readonly<Record<string, string>>>({});
  const { data: preview } = useQuery({
    queryKey: ["preview", chosen?.id, picked, answers, chosenPeople],
    queryFn: () =>
      api.post("/plans/preview", {
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
  const besides = first.length - 1;
  const to =
    first.length > 0
      ? `Send to ${people.get(first[0]!)?.name.split(" ")[0] ?? ""}${besides > 0 ? ` and ${besides} other${besides > 1 ? "s" : ""}` : ""}`
      : "Send";
  const toggle = (list: readonly string[], id: string) =>
    list.includes(id) ? list.filter((x) => x !== id) : [...list, id];

  // A prepared package, or one put aside, comes back as it was.
  const wanted = params.get("prepared");
  const resumed = useRef<string | null>(null);
  useEffect(() => {
    const row = prepared?.find((p) => p.id === wanted);
    if (!row || resumed.current === row.id) return;
    resumed.current = row.id;
    setTitle(row.title);
    setNote(row.coveringNote);
    setPlanId(row.plan ?? null);
    setPicked(row.documents);
    setAnswers(row.answers);
  }, [prepared, wanted]);

  const asked = plan
    ? stepsOf(plan).flatMap((s) => (s.tells ?? []).filter((t) => t.asksSender).map((t) => ({ step: s, at: t.at })))
    : [];
  const body = (documents: readonly string[], sending: string, words: string) => ({
    key: sending,
    title: words,
    coveringNote: note,
    plan: chosen!.id,
    documents,
    inform,
    answers,
    chosen: chosenPeople,
    told: asked.flatMap(({ step, at }) => {
      const people = told[`${step.key} ${at}`] ?? [];
      return people.length > 0 ? [{ step: step.key, at, people }] : [];
    }),
    prepared: resumed.current,
    say,
  });
  const send = async () => {
    setBusy(true);
    setFault(null);
    try {
      if (!apart || picked.length === 1) {
        const done = await api.post("/packages", body(picked, key.current, title));
        await navigate(`/packages/${done.id}`);
        return;
      }
      // Each document in a package of its own: what one lacks holds up no other, and what went is not sent again.
      const done: OneOfMany[] = [];
      for (const id of picked) {
        const d = known.get(id);
        try {
          const one = await api.post("/packages", body([id], newKey(), `${title}: ${d?.number ?? ""}`));
          done.push({ id: one.id, name: `${one.number} ${d?.number ?? ""}`, refusal: null });
        } catch (e) {
          done.push({ id, name: d?.number ?? "", refusal: (e as Error).message });
        }
        setSent([...done]);
      }
      setPicked(done.filter((d) => d.refusal).map((d) => d.id));
      await client.invalidateQueries();
    } catch (e) {
      setFault((e as Error).message);
    }
    setBusy(false);
  };
  const putAside = async () => {
    setFault(null);
    try {
      resumed.current ??= newKey();
      await api.put("/prepared", {
        id: resumed.current,
        title,
        coveringNote: note,
        plan: chosen?.id ?? null,
        documents: picked,
        answers,
      });
      setAside("Put aside. You find it on your desk.");
      await client.invalidateQueries({ queryKey: ["prepared"] });
      await client.invalidateQueries({ queryKey: ["desk"] });
    } catch (e) {
      setFault((e as Error).message);
    }
  };
  const focusOn = (id: string) => document.getElementById(id)?.focus();
  const remedyFor = (remedy: Remedy, stall: Stall) => {
    const name = people.get(remedy.person ?? "")?.name.split(" ")[0] ?? "them";
    switch (remedy.kind) {
      case "nameDeputy":
        return remedy.person === me.id || me.canCoordinate
          ? { words: `Name a deputy for ${name}`, act: () => setDeputyFor(remedy.person!) }
          : {
              words: `Ask ${name} to name a deputy`,
              act: () =>
                void api.post("/absences/asked", { person: remedy.person! }).then(
                  () => setAside(`${name} was asked.`),
                  (e: Error) => setFault(e.message),
                ),
            };
      case "chooseOther":
        return { words: "Choose somebody else", act: () => focusOn(`seat-${stall.seat}`) };
      case "extendGroup":
        return me.canAdminister
          ? { words: "Add people to the group", act: () => void navigate(`/office/groups?group=${remedy.group}`) }
          : null;
      case "allowTime":
        return me.canBuildPlans
          ? { words: `Allow ${remedy.days} days in the plan`, act: () => void navigate(`/plans/${chosen!.id}`) }
          : { words: "Choose another plan", act: () => focusOn("plans") };
      default:
        return { words: "Choose another plan", act: () => focusOn("plans") };
    }
  };

  return (
    <>
      <PlaceBar title="Send for review" />
      <main className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
          <div className="max-w-[760px]">
            <h2 className="label mb-1">1 · Documents in work</h2>
            <DocumentPicker
              rows={mine}
              picked={picked}
              known={known}
              words={words}
              onWords={setWords}
              isLoaded={own.data !== undefined}
              onMore={own.hasNextPage ? () => void own.fetchNextPage() : null}
              onToggle={(id) => setPicked(toggle(picked, id))}
            />
            {own.data && (
              <div className="-mt-4 mb-5">
                <Tick words="Those of other originators as well" on={others} set={setOthers} />
              </div>
            )}
            <Unsettled documents={picked} />
            <h2 className="label mb-1">2 · Routing plan</h2>
            <div
              id="plans"
              tabIndex={-1}
              role="radiogroup"
              aria-label="Routing plan"
              className="mb-6 grid grid-cols-2 gap-3"
            >
              {fits?.map((f) => {
                const isChosen = f.id === chosen?.id;
                const row = plans?.find((p) => p.id === f.id);
                return (
                  <button
                    key={f.id}
                    type="button"
                    role="radio"
                    aria-checked={isChosen}
                    className={`flex flex-col border px-3 py-2 text-left ${isChosen ? "border-spruce bg-raised outline-1 outline-spruce" : f.misfit ? "border-rule" : "border-rule bg-raised hover:border-soft"}`}
                    onClick={() => {
                      setPlanId(f.id);
                      setAnswers({});
                      setChosenPeople({});
                      setTold({});
                    }}
                  >
                    <span className="font-semibold">{f.name}</span>
                    <span className="block text-soft">{f.misfit ? "Not for these documents" : f.purpose}</span>
                    <span className="mt-1 block text-sm text-soft">
                      First {f.firstStep} · {f.signatures} {f.signatures === 1 ? "signature" : "signatures"} ·{" "}
                      {f.usualDays !== null && f.usualDays !== undefined
                        ? `usually ${f.usualDays} working days`
                        : row && `at most ${workingDaysOf(planOf(row))} working days`}
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
              <IntakeForm form={plan.form!} answers={answers} documents={[...known.values()]} onChange={setAnswers} />
            )}
            {openSeats.map(({ s, seat, group }) => (
              <Labelled key={seat.key} label={`Who signs as ${seat.role} in “${s.name}”`}>
                <select
                  id={`seat-${seat.key}`}
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
            {asked.map(({ step, at }) => (
              <Told
                key={`${step.key} ${at}`}
                legend={`Who else hears when “${step.name}” ${asks[at]}`}
                picked={told[`${step.key} ${at}`] ?? []}
                onChange={(people) => setTold({ ...told, [`${step.key} ${at}`]: people })}
              />
            ))}
            <Told legend="People to inform of the release" picked={inform} onChange={setInform} />
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
                  <Stalls preview={preview} nameOf={(p) => people.get(p)?.name ?? "somebody"} onRemedy={remedyFor} />
                </div>
              </div>
            )}
            {preview && <PlanReading preview={preview} />}
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
            {picked.length > 1 && <Tick words="each document in a package of its own" on={apart} set={setApart} />}
            {sent.map((d) => (
              <p key={d.id} role="status" className={d.refusal ? "text-rust" : ""}>
                {d.refusal ? (
                  `${d.name}: ${d.refusal}`
                ) : (
                  <Link className="underline" to={`/packages/${d.id}`}>
                    {d.name} is sent
                  </Link>
                )}
              </p>
            ))}
            {chosen && picked.length > 0 && (
              <WhoHears
                about={["send", chosen.id, picked, chosenPeople, told, answers]}
                ask={
                  title.trim() && !preview?.refusal
                    ? () => api.post("/packages/told", { ...body(picked, newKey(), title), say: null })
                    : null
                }
                say={say}
                setSay={setSay}
              />
            )}
            {aside && (
              <p role="status" className="mb-2">
                {aside}
              </p>
            )}
            <div className="flex flex-wrap gap-2">
              <Button
                look="main"
                disabled={busy || picked.length === 0 || !title.trim() || !chosen || !!preview?.refusal}
                onClick={() => void send()}
              >
                {busy ? "Sending …" : apart && picked.length > 1 ? `Send ${picked.length} packages` : to}
              </Button>
              <Button disabled={busy || (!title.trim() && picked.length === 0)} onClick={() => void putAside()}>
                Put aside
              </Button>
            </div>
          </div>
        </aside>
      </main>
      <Absences open={deputyFor !== null} person={deputyFor} onClose={() => setDeputyFor(null)} />
    </>
  );
}

const asks: Record<Telling["at"], string> = {
  arrival: "arrives",
  passage: "passes",
  return: "is returned",
  late: "is late",
};
