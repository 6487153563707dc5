import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { Absences } from "../absences/Absences";
import { api } from "../api/client";
import { newKey } from "../api/key";
import type { OneOfMany, Remedy, Stall } from "../api/types";
import { useAct } from "../api/useAct";
import { useMe } from "../session/me";
import { ForecastBars, Stalls } from "../slip/ForecastBars";
import { PlanReading } from "../slip/PlanReading";
import { WhoHears } from "../slip/WhoHears";
import { Strip } from "../strip/Strip";
import { Button, Fault, Tick } from "../ui/kit";
import { usePeople } from "../ui/people";
import { toldAt, type SendForm } from "./form";
import type { Planned } from "./usePlanned";

type Props = { form: SendForm; set: (patch: Partial<SendForm>) => void; discard: () => void; planned: Planned };

/** The way the package would go, what would stall it, and sending it. */
export function RouteSide({ form, set, discard, planned }: Props) {
  const me = useMe();
  const people = usePeople();
  const navigate = useNavigate();
  const client = useQueryClient();
  const { chosen, preview, strip, known, asked, first } = planned;
  const { picked, title } = form;
  const [says, setSays] = useState<string | null>(null);
  const [sent, setSent] = useState<readonly OneOfMany[]>([]);
  const [deputyFor, setDeputyFor] = useState<string | null>(null);
  const body = (documents: readonly string[], key: string, words: string) => ({
    key,
    title: words,
    coveringNote: form.note,
    changeOrder: form.changeOrder,
    plan: chosen!.id,
    documents,
    inform: form.inform,
    answers: form.answers,
    chosen: form.chosen,
    told: asked.flatMap(({ step, at }) => {
      const people = form.told[toldAt(step.key, at)] ?? [];
      return people.length > 0 ? [{ step: step.key, at, people }] : [];
    }),
    prepared: form.prepared,
    say: form.say,
  });
  const isApart = form.isApart && picked.length > 1;
  const sending = useAct(async () => {
    if (!isApart) {
      const done = await api.post("/packages", body(picked, form.key, title));
      discard();
      await navigate(`/packages/${done.id}`);
      return;
    }
    // Each document in a package of its own: what one lacks holds up no other, and what went is not sent again.
    const keys = { ...Object.fromEntries(picked.map((id) => [id, newKey()])), ...form.keys };
    set({ keys });
    const done: OneOfMany[] = [];
    for (const id of picked) {
      const number = known.get(id)?.number ?? "";
      try {
        const one = await api.post("/packages", body([id], keys[id]!, `${title}: ${number}`));
        done.push({ id: one.id, name: `${one.number} ${number}`, refusal: null });
      } catch (e) {
        done.push({ id, name: number, refusal: (e as Error).message });
      }
      setSent([...done]);
    }
    const left = done.filter((d) => d.refusal).map((d) => d.id);
    if (left.length > 0) set({ picked: left });
    else discard();
    await client.invalidateQueries();
  });
  const puttingAside = useAct(async () => {
    const id = form.prepared ?? newKey();
    set({ prepared: id });
    await api.put("/prepared", {
      id,
      title,
      coveringNote: form.note,
      changeOrder: form.changeOrder,
      plan: chosen?.id ?? null,
      documents: picked,
      answers: form.answers,
    });
    setSays("Put aside. You find it on your desk.");
    await client.invalidateQueries({ queryKey: ["prepared"] });
    await client.invalidateQueries({ queryKey: ["desk"] });
  });
  const asking = useAct(async (key, person: string, name: string) => {
    await api.once(key).post("/absences/asked", { person });
    setSays(`${name} was asked.`);
  });
  const focusOn = (id: string) => document.getElementById(id)?.focus();
  const remedyFor = (remedy: Remedy, stall: Stall) => {
    const name = people.get(remedy.person ?? "")?.name.split(" ")[0] ?? "them";
    switch (remedy.kind) {
      case "nameDeputy":
        return remedy.person === me.id || me.canCoordinate
          ? { words: `Name a deputy for ${name}`, act: () => setDeputyFor(remedy.person!) }
          : { words: `Ask ${name} to name a deputy`, act: () => void asking.run(remedy.person!, name) };
      case "chooseOther":
        return { words: "Choose somebody else", act: () => focusOn(`seat-${stall.seat}`) };
      case "extendGroup":
        return me.canAdminister
          ? { words: "Add people to the group", act: () => void navigate(`/office/groups?group=${remedy.group}`) }
          : null;
      case "allowTime":
        return me.canBuildPlans
          ? {
              words: remedy.days === 1 ? "Allow a day in the plan" : `Allow ${remedy.days} days in the plan`,
              act: () => void navigate(`/plans/${chosen!.id}`),
            }
          : { words: "Choose another plan", act: () => focusOn("plans") };
      default:
        return { words: "Choose another plan", act: () => focusOn("plans") };
    }
  };
  const besides = first.length - 1;
  const to =
    first.length > 0
      ? `Send to ${people.get(first[0]!)?.name.split(" ")[0] ?? ""}${besides > 0 ? ` and ${besides} other${besides > 1 ? "s" : ""}` : ""}`
      : "Send";
  return (
    <aside
      aria-label="The route"
      className="flex w-[420px] shrink-0 flex-col border-l border-rule bg-raised max-[900px]:w-full max-[900px]:border-t max-[900px]:border-l-0"
    >
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
        <Fault>{sending.fault ?? puttingAside.fault ?? asking.fault}</Fault>
        <p className="mb-2 text-soft">
          {picked.length === 0
            ? "Choose at least one document."
            : !title.trim()
              ? "Give the package a title."
              : preview?.refusal
                ? preview.refusal
                : `${picked.length === 1 ? "1 document, as it is" : `${picked.length} documents, as they are`} now, byte for byte.`}
        </p>
        {picked.length > 1 && (
          <Tick words="each document in a package of its own" on={form.isApart} set={(on) => set({ isApart: on })} />
        )}
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
            about={["send", chosen.id, picked, form.chosen, form.told, form.answers]}
            ask={
              title.trim() && !preview?.refusal
                ? () => api.post("/packages/told", { ...body(picked, newKey(), title), say: null })
                : null
            }
            say={form.say}
            setSay={(say) => set({ say })}
          />
        )}
        {says && (
          <p role="status" className="mb-2">
            {says}
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          <Button
            look="main"
            disabled={sending.isBusy || picked.length === 0 || !title.trim() || !chosen || !!preview?.refusal}
            onClick={() => void sending.run()}
          >
            {sending.isBusy ? "Sending …" : isApart ? `Send ${picked.length} packages` : to}
          </Button>
          <Button
            disabled={sending.isBusy || puttingAside.isBusy || (!title.trim() && picked.length === 0)}
            onClick={() => void puttingAside.run()}
          >
            Put aside
          </Button>
        </div>
      </div>
      <Absences open={deputyFor !== null} person={deputyFor} onClose={() => setDeputyFor(null)} />
    </aside>
  );
}
