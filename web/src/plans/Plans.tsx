import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { Unfetched } from "../ui/Unfetched";
import { Waiting } from "../ui/Waiting";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import { stepsOf, workingDaysOf, type Plan, type PlanRow, planOf } from "../api/types";
import { isFound, useListing } from "../lists/listing";
import { SearchBox } from "../lists/SearchBox";
import { Awaited } from "../ui/Awaited";
import { Button, Empty, Fault } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { usePeople } from "../ui/people";
import { MiniStrip, Strip } from "../strip/Strip";
import { patterns } from "./edit";
import { PlanReading } from "../slip/PlanReading";

/** The plans packages can follow, and for coordinators the drafts. */
export function Plans() {
  const me = useMe();
  const navigate = useNavigate();
  const client = useQueryClient();
  const people = usePeople();
  const [making, setMaking] = useState(false);
  const [reading, setReading] = useState<PlanRow | null>(null);
  const list = useQuery({ queryKey: ["plans"], queryFn: () => api.get("/plans"), meta: { saysItself: true } });
  const { data: plans } = list;
  const listing = useListing<PlanRow>([], "name");
  const keeper = (row: PlanRow) => (row.owner ? people.get(row.owner)?.name : undefined);
  const shown = plans?.filter((row) => isFound(listing.get("search"), row.name, row.purpose, keeper(row)));
  const adding = useAct(async (key, plan: Plan) => {
    const made = await api.once(key).post("/plans", plan);
    await client.invalidateQueries({ queryKey: ["plans"] });
    await navigate(`/plans/${made.id}`);
  });
  const { fault } = adding;
  const make = (plan: Plan) => adding.run(plan);
  return (
    <>
      <PlaceBar title="Plans">
        <SearchBox listing={listing} label="Find a plan" hint="Words of a plan" />
        {me.canBuildPlans && (
          <Button look="main" onClick={() => setMaking(true)}>
            New plan
          </Button>
        )}
      </PlaceBar>
      <main className="flex-1 overflow-y-auto">
        <Awaited what="the plans" of={list} />
        {plans?.length === 0 && (
          <Empty title="There is no plan yet">A coordinator makes the first one from a ready pattern.</Empty>
        )}
        {plans && plans.length > 0 && shown?.length === 0 && (
          <Empty title="No plan fits">Look for other words of its name, its purpose or who keeps it.</Empty>
        )}
        <ul>
          {shown?.map((row) => {
            const plan = planOf(row);
            const steps = stepsOf(plan);
            const seats = steps.reduce((n, s) => n + s.seats.length, 0);
            return (
              <li
                key={row.id}
                className="flex items-center gap-4 border-b border-rule px-6 py-3 max-[700px]:flex-wrap max-[700px]:px-4"
              >
                <span aria-hidden>
                  <MiniStrip state={{ plan, seats: [], open: [], passed: [], released: false }} />
                </span>
                <div className="min-w-0 flex-1 max-[700px]:basis-[60%]">
                  <p className="flex items-baseline gap-3 max-[700px]:flex-wrap">
                    {me.canBuildPlans ? (
                      <Link to={`/plans/${row.id}`} className="text-lg font-semibold hover:underline">
                        {row.name}
                      </Link>
                    ) : (
                      <span className="text-lg font-semibold">{row.name}</span>
                    )}
                    <span className="shrink-0 font-mono text-sm text-soft">
                      {row.edition === 0 ? "not published yet" : `edition ${row.edition}`}
                      {row.edition > 0 && row.isDraft ? ", draft of the next" : ""}
                    </span>
                  </p>
                  <p className="text-soft">
                    {row.purpose || "No purpose is stated."}
                    {row.owner && <span className="text-sm"> Kept by {keeper(row)}.</span>}
                  </p>
                </div>
                <p className="text-sm text-soft max-[700px]:basis-full">
                  {steps.length} {steps.length === 1 ? "step" : "steps"}, {seats} {seats === 1 ? "seat" : "seats"}, at
                  most {workingDaysOf(plan)} working days
                </p>
                <Button onClick={() => setReading(row)}>Read</Button>
                {me.canBuildPlans && (
                  <Button onClick={() => void make({ ...plan, name: `${plan.name}, copy` })}>Copy</Button>
                )}
              </li>
            );
          })}
        </ul>
        <Fault>{fault}</Fault>
      </main>
      <SideSheet title={reading?.name ?? ""} open={reading !== null} onClose={() => setReading(null)}>
        {reading && <Reading plan={reading} />}
      </SideSheet>
      <SideSheet title="New plan from a pattern" open={making} onClose={() => setMaking(false)}>
        <ul>
          {patterns().map((p) => (
            <li key={p.name} className="mb-3">
              <button
                type="button"
                className="flex w-full items-center gap-4 border border-rule p-3 text-left hover:bg-lit"
                onClick={() => void make(p.plan)}
              >
                <span aria-hidden>
                  <MiniStrip state={{ plan: p.plan, seats: [], open: [], passed: [], released: false }} />
                </span>
                <span>
                  <b className="block font-semibold">{p.name}</b>
                  <span className="text-soft">{p.what}</span>
                </span>
              </button>
            </li>
          ))}
        </ul>
        <Fault>{fault}</Fault>
      </SideSheet>
    </>
  );
}

/** The published plan in full, as it would run for the reader. */
function Reading({ plan }: { plan: PlanRow }) {
  const people = usePeople();
  const { data, error } = useQuery({
    queryKey: ["plan-preview", plan.id, "published"],
    queryFn: () =>
      api.post("/plans/preview", {
        plan: plan.plan,
        planId: plan.id,
        documents: [],
        answers: {},
        chosen: {},
      }),
    meta: { saysItself: true },
  });
  if (!data)
    return error ? (
      <Unfetched title="The plan could not be read" error={error} />
    ) : (
      <Waiting>Fetching the plan …</Waiting>
    );
  return (
    <>
      <Strip
        state={{
          plan: planOf(data),
          seats: data.seats.map((s) => ({ ...s, signed: [] })),
          open: [],
          passed: [],
          released: false,
        }}
        people={people}
      />
      <PlanReading preview={data} />
    </>
  );
}
