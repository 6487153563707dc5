import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { api } from "../api/client";
import type { Telling } from "../api/types";
import { usePages } from "../lists/listing";
import { pagesOf } from "../lists/pages";
import { useMe } from "../session/me";
import { ChangeOrderField } from "../slip/ChangeOrderField";
import { IntakeForm } from "../slip/IntakeForm";
import { Awaited } from "../ui/Awaited";
import { Button, Labelled, Tick } from "../ui/kit";
import { usePeople } from "../ui/people";
import { PlaceBar } from "../ui/PlaceBar";
import { useSettled } from "../ui/useSettled";
import { DocumentPicker } from "./DocumentPicker";
import { toldAt, useSendForm } from "./form";
import { PlanPicker } from "./PlanPicker";
import { RouteSide } from "./RouteSide";
import { Told } from "./Told";
import { Unsettled } from "./Unsettled";
import { usePlanned } from "./usePlanned";

const asks: Record<Telling["at"], string> = {
  arrival: "arrives",
  passage: "passes",
  return: "is returned",
  late: "is late",
};

/** Several documents become a package: what goes, along which plan, what for, and who is told. */
export function Send() {
  const me = useMe();
  const people = usePeople();
  const [params] = useSearchParams();
  const wanted = params.get("prepared");
  const { form, set, discard, isKept } = useSendForm(params.getAll("document"), wanted);
  const [words, setWords] = useState("");
  const [others, setOthers] = useState(false);
  const by = others ? undefined : me.id;
  const asked = useSettled(words.trim());
  const own = usePages(
    pagesOf(["documents", "in work", by ?? "", asked], (after) =>
      api.get("/documents", { originator: by, standing: "in work", search: asked, after }),
    ),
  );
  const { data: groups } = useQuery({ queryKey: ["groups"], queryFn: () => api.get("/groups") });
  const { data: prepared } = useQuery({ queryKey: ["prepared"], queryFn: () => api.get("/prepared") });
  const mine = useMemo(() => own.data ?? [], [own.data]);
  const planned = usePlanned(form, mine);

  // A prepared package, or one put aside, comes back as it was, unless work on it goes on already.
  const resumed = useRef<string | null>(null);
  useEffect(() => {
    const row = prepared?.find((p) => p.id === wanted);
    if (!row || resumed.current === row.id) return;
    resumed.current = row.id;
    if (isKept) return;
    set({
      prepared: row.id,
      title: row.title,
      note: row.coveringNote,
      changeOrder: row.changeOrder,
      planId: row.plan ?? null,
      picked: row.documents,
      answers: row.answers,
    });
  });

  const toggle = (list: readonly string[], id: string) =>
    list.includes(id) ? list.filter((x) => x !== id) : [...list, id];
  return (
    <>
      <PlaceBar title="Send for review">
        {isKept && (
          <Button look="quiet" onClick={discard} title="Empties the form; what was put aside stays on the desk">
            Begin anew
          </Button>
        )}
      </PlaceBar>
      <main className="flex min-h-0 flex-1 max-[900px]:flex-col max-[900px]:overflow-y-auto">
        <div className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-[900px]:flex-none max-[900px]:px-4">
          <div className="max-w-[760px]">
            <h2 className="label mb-1">1 · Documents in work</h2>
            <Awaited what="your documents" of={own} />
            <DocumentPicker
              rows={mine}
              picked={form.picked}
              known={planned.known}
              words={words}
              onWords={setWords}
              isLoaded={own.data !== undefined}
              onMore={own.hasNextPage ? () => void own.fetchNextPage() : null}
              onToggle={(id) => set({ picked: toggle(form.picked, id) })}
            />
            {own.data && (
              <div className="-mt-4 mb-5">
                <Tick words="Those of other originators as well" on={others} set={setOthers} />
              </div>
            )}
            <Unsettled documents={form.picked} />
            <h2 className="label mb-1">2 · Routing plan</h2>
            <Awaited what="the plans that fit" of={planned.fitting} />
            <PlanPicker planned={planned} onChoose={(planId) => set({ planId, answers: {}, chosen: {}, told: {} })} />
            <h2 className="label mb-1">3 · What it is for</h2>
            <Labelled label="Title">
              <input
                className="field"
                value={form.title}
                maxLength={200}
                placeholder="Bearing housing to G7 seals"
                onChange={(e) => set({ title: e.target.value })}
              />
            </Labelled>
            <Labelled label="Covering note" hint="Everyone who signs reads this first.">
              <textarea
                className="field"
                rows={3}
                value={form.note}
                maxLength={4000}
                onChange={(e) => set({ note: e.target.value })}
              />
            </Labelled>
            <ChangeOrderField value={form.changeOrder} onChange={(changeOrder) => set({ changeOrder })} />
            {planned.plan && (planned.plan.form ?? []).length > 0 && (
              <IntakeForm
                form={planned.plan.form!}
                answers={form.answers}
                documents={[...planned.known.values()]}
                onChange={(answers) => set({ answers })}
              />
            )}
            {planned.openSeats.map(({ s, seat, group }) => (
              <Labelled key={seat.key} label={`Who signs as ${seat.role} in “${s.name}”`}>
                <select
                  id={`seat-${seat.key}`}
                  className="field"
                  value={form.chosen[seat.key] ?? ""}
                  onChange={(e) => set({ chosen: { ...form.chosen, [seat.key]: e.target.value } })}
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
            {planned.asked.map(({ step, at }) => (
              <Told
                key={toldAt(step.key, at)}
                legend={`Who else hears when “${step.name}” ${asks[at]}`}
                picked={form.told[toldAt(step.key, at)] ?? []}
                onChange={(people) => set({ told: { ...form.told, [toldAt(step.key, at)]: people } })}
              />
            ))}
            <Told
              legend="People to inform of the release"
              picked={form.inform}
              onChange={(inform) => set({ inform })}
            />
          </div>
        </div>
        <RouteSide form={form} set={set} discard={discard} planned={planned} />
      </main>
    </>
  );
}
