import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { Redo2, Undo2 } from "lucide-react";
import { useCallback, useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import {
  blocksOf,
  stepsOf,
  type Choice,
  type Finding,
  type Holder,
  type Plan,
  type PlanDraft,
  type Remedy,
  type Stall,
  type Step,
} from "../api/types";
import { Absences } from "../absences/Absences";
import { Button, Fault, Labelled } from "../ui/kit";
import { usePeople } from "../ui/people";
import { Unfetched } from "../ui/Unfetched";
import { Waiting } from "../ui/Waiting";
import { PersonSelect } from "../ui/PersonSelect";
import { ChoicePanel } from "./ChoicePanel";
import { addAfter, addToWay, cellBeside, newStep, remove, update } from "./edit";
import { ForecastBars, ForecastComing, Stalls } from "../slip/ForecastBars";
import { PlanPanel } from "./PlanPanel";
import { PlanStrip } from "./PlanStrip";
import { savingWords, type PlanSaving } from "./saving";
import { StepPanel } from "./StepPanel";
import { useEditing } from "./useEditing";
import { usePlanKeys } from "./usePlanKeys";

/** A plan's editor: loads the draft, then hands it over. */
export function Editor() {
  const { id } = useParams();
  const { data, error } = useQuery({
    queryKey: ["plan-draft", id],
    queryFn: () => api.get(`/plans/${id}`),
    staleTime: Infinity,
    // Opened again, it is fetched again: what was saved meanwhile has another version.
    gcTime: 0,
    meta: { saysItself: true },
  });
  if (!data)
    return error ? (
      <Unfetched title="This plan cannot be edited" error={error} />
    ) : (
      <Waiting>Opening the plan …</Waiting>
    );
  return <Open key={data.id} draft={data} />;
}

function Open({ draft }: { draft: PlanDraft }) {
  const client = useQueryClient();
  const me = useMe();
  const navigate = useNavigate();
  const people = usePeople();
  const [deputyFor, setDeputyFor] = useState<string | null>(null);
  const { data: groups } = useQuery({ queryKey: ["groups"], queryFn: () => api.get("/groups") });
  const { plan, change, undo, redo, saving } = useEditing(draft);
  const [picked, setPicked] = useState<string | null>(null);
  const [edition, setEdition] = useState(draft.edition);
  // What the plan would do is asked a moment after each change, for nothing sent and no form filled in.
  const [asked, setAsked] = useState(plan);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(plan), 300);
    return () => clearTimeout(timer);
  }, [plan]);
  const { data: preview } = useQuery({
    queryKey: ["plan-preview", draft.id, asked],
    queryFn: () =>
      api.post("/plans/preview", { plan: asked, planId: draft.id, documents: [], answers: {}, chosen: {} }),
    placeholderData: keepPreviousData,
  });
  const findings: readonly Finding[] = preview?.proof.findings ?? [];
  const words = preview?.proof.words ?? {};
  const stops = findings.filter((f) => f.stops).length;

  const pick = useCallback((key: string | null) => {
    setPicked(key);
    if (key) document.querySelector<HTMLElement>(`[data-cell="${key}"]`)?.focus();
  }, []);

  // The keyboard's focus follows the cell that is picked, so that the next key goes to it; also where what had it is gone.
  useEffect(() => {
    const at = document.activeElement;
    if (picked && (at === document.body || at?.hasAttribute("data-cell")))
      document.querySelector<HTMLElement>(`[data-cell="${picked}"]`)?.focus();
  }, [picked]);

  const publishing = useAct(async (key) => {
    if (!(await saving.save())) throw new Error(saving.fault ?? "Save the plan first.");
    const done = await api.once(key).post(`/plans/${draft.id}/editions`, { version: saving.left.version });
    setEdition(done.edition);
    saving.isDraft = done.isDraft;
    await client.invalidateQueries({ queryKey: ["plans"] });
  });
  const isPublished = !saving.isDraft && edition > 0 && saving.state === "saved";

  usePlanKeys({ plan, picked, setPicked, pick, change, undo, redo });

  const nameOf = (h: Holder): string => {
    const group = (g: string) => groups?.find((x) => x.id === g);
    switch (h.holder) {
      case "person":
        return people.get(h.person)?.name ?? "nobody named yet";
      case "group":
        return `of ${group(h.group)?.name ?? "a group"} (${group(h.group)?.members.length ?? 0})`;
      case "chosen":
        return `chosen by the sender from ${group(h.group)?.name ?? "a group"}`;
      case "originator":
        return "the originator";
      case "owners":
        return "the documents' originators";
      case "signerOf":
        return `who signed ${stepsOf(plan).find((s) => s.key === h.step)?.name ?? "an earlier step"}`;
    }
  };
  const cell = blocksOf(plan).find((b) => (b.block === "step" || b.block === "choice") && b.key === picked) as
    Step | Choice | undefined;
  const panel = { plan, words, onChange: change };
  const remedyFor = (remedy: Remedy, stall: Stall) => {
    switch (remedy.kind) {
      case "nameDeputy":
        return {
          words: `Name a deputy for ${people.get(remedy.person!)?.name.split(" ")[0] ?? "them"}`,
          act: () => setDeputyFor(remedy.person!),
        };
      case "allowTime":
        return {
          words: remedy.days === 1 ? "Allow a day" : `Allow ${remedy.days} days`,
          act: () => {
            change(update<Step>(plan, stall.step, { workingDays: remedy.days! }));
            setPicked(stall.step);
          },
        };
      case "extendGroup":
        return me.canAdminister
          ? { words: "Add people to the group", act: () => void navigate(`/office/groups?group=${remedy.group}`) }
          : null;
      default:
        return { words: "Choose who fills it", act: () => setPicked(stall.step) };
    }
  };
  return (
    <>
      <PlaceBar
        name={`Plan ${plan.name}`}
        title={
          <span className="flex items-center gap-3">
            <Link to="/plans" className="font-normal text-soft hover:underline">
              Plans
            </Link>
            <span aria-hidden className="text-rule">
              ›
            </span>
            <span className="truncate">{plan.name}</span>
          </span>
        }
        beside={
          <span className="font-mono text-sm text-soft">
            {edition === 0 ? "not published yet" : `edition ${edition}`}
            {saving.isDraft && edition > 0 ? ", draft of the next" : ""} ·{" "}
            <span role="status" className={saving.fault ? "text-rust" : ""}>
              {savingWords[saving.state]}
            </span>
          </span>
        }
      >
        <Button onClick={() => undo?.()} disabled={!undo}>
          <Undo2 size={15} /> Undo
        </Button>
        <Button onClick={() => redo?.()} disabled={!redo} aria-label="Redo">
          <Redo2 size={15} />
        </Button>
        <Button
          look="main"
          disabled={stops > 0 || isPublished || publishing.isBusy}
          onClick={() => void publishing.run()}
        >
          {isPublished ? `Edition ${edition} is published` : `Publish edition ${edition + 1}`}
        </Button>
      </PlaceBar>
      <main className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col">
          <div className="min-h-0 flex-1 overflow-y-auto px-4 py-4" data-keys="plan">
            <Unsaved saving={saving} onTheirs={change} />
            <Fault>{publishing.fault}</Fault>
            <div className="mb-2 flex items-center justify-between gap-4">
              <p className="text-soft">{plan.purpose || "Say what the plan is for."}</p>
              <Button className="shrink-0" onClick={() => setPicked(null)}>
                Plan and form, {(plan.form ?? []).length} {(plan.form ?? []).length === 1 ? "field" : "fields"}
              </Button>
            </div>
            <PlanStrip
              plan={plan}
              picked={picked}
              findings={findings}
              words={words}
              nameOf={nameOf}
              onPick={setPicked}
              onAdd={(after) => {
                const step = newStep(plan);
                change(addAfter(plan, after, step));
                setPicked(step.key);
              }}
              onAddFirst={() => {
                const step = newStep(plan);
                change(addAfter(plan, null, step));
                setPicked(step.key);
              }}
              onAddToWay={(choice, way) => {
                const step = newStep(plan);
                change(addToWay(plan, choice, way, step));
                setPicked(step.key);
              }}
            />
            <p className="mt-1 text-soft">
              {(
                [
                  ["← →", "cell to cell"],
                  ["Enter", "edit"],
                  ["A", "step after"],
                  ["P", "parallel below"],
                  ["O", "choice after"],
                  ["Del", "remove"],
                  ["Esc", "back to the cell"],
                ] as const
              ).map(([k, w]) => (
                <span key={k} className="mr-4 whitespace-nowrap">
                  <kbd className="rounded-[3px] border border-edge bg-raised px-1.5 font-mono text-xs">{k}</kbd> {w}
                </span>
              ))}
            </p>
          </div>
          <div className="max-h-[42%] shrink-0 overflow-y-auto border-t border-rule px-4 py-3">
            {preview ? <ForecastBars preview={preview} /> : <ForecastComing steps={stepsOf(plan).length} />}
          </div>
        </div>
        <aside
          aria-label="Details"
          className="flex w-[348px] shrink-0 flex-col border-l border-rule bg-ground"
          onKeyDown={(e) => {
            if (e.key === "Escape" && cell && !e.defaultPrevented && !e.nativeEvent.isComposing) pick(cell.key);
          }}
        >
          <div className="min-h-0 flex-1 overflow-y-auto p-4">
            <div className="mb-3 flex items-center justify-between">
              <h2 className="text-lg font-semibold">
                {cell ? (cell.block === "step" ? "Step" : "Choice") : "The plan"}
              </h2>
              {cell && (
                <Button
                  look="quiet"
                  onClick={() => {
                    change(remove(plan, cell.key));
                    setPicked(cellBeside(plan, cell.key));
                  }}
                >
                  Remove
                </Button>
              )}
            </div>
            {cell?.block === "step" ? (
              <StepPanel
                key={cell.key}
                step={cell}
                people={[...people.values()].filter((p) => !p.isGuest)}
                groups={groups ?? []}
                {...panel}
              />
            ) : cell ? (
              <ChoicePanel key={cell.key} choice={cell} {...panel} />
            ) : (
              <PlanPanel
                plan={plan}
                keeper={<Keeper plan={draft.id} owner={draft.owner ?? null} />}
                groups={groups ?? []}
                words={words}
                onChange={change}
              />
            )}
          </div>
          <div
            className="max-h-[42%] shrink-0 overflow-y-auto border-t border-rule p-4"
            tabIndex={0}
            role="region"
            aria-label="What would stall it"
          >
            <h2 className="label mb-2">What would stall it</h2>
            {findings.map((f, i) => (
              <button
                key={i}
                type="button"
                className={`mb-2 block w-full border-l-[3px] pl-2.5 text-left hover:bg-picked ${f.stops ? "border-rust" : "border-ochre"}`}
                onClick={() =>
                  pick(stepsOf(plan).find((s) => s.seats.some((x) => x.key === f.cell))?.key ?? ownerOf(plan, f.cell))
                }
              >
                <span className="block font-medium">{f.says}</span>
                <span className="block text-sm text-soft">{f.remedy}</span>
              </button>
            ))}
            {preview && (
              <Stalls preview={preview} nameOf={(p) => people.get(p)?.name ?? "somebody"} onRemedy={remedyFor} />
            )}
            {preview && findings.length === 0 && preview.stalls.length === 0 && (
              <p>Nothing: every seat can be filled, every choice is complete, every return goes back.</p>
            )}
          </div>
        </aside>
      </main>
      <Absences open={deputyFor !== null} person={deputyFor} onClose={() => setDeputyFor(null)} />
    </>
  );
}

/** What to do about a plan that could not be saved. */
function Unsaved({ saving, onTheirs }: { saving: PlanSaving; onTheirs: (plan: Plan) => void }) {
  const resolving = useAct(async (_key, mine: boolean) => {
    if (mine) await saving.keepMine();
    else onTheirs(await saving.takeTheirs());
  });
  if (!saving.fault) return null;
  return (
    <div role="alert" className="fault my-2 flex items-center gap-3">
      <span className="min-w-0 flex-1">{resolving.fault ?? saving.fault}</span>
      {saving.state === "clash" ? (
        <>
          <Button disabled={resolving.isBusy} onClick={() => void resolving.run(false)}>
            Take over theirs
          </Button>
          <Button disabled={resolving.isBusy} onClick={() => void resolving.run(true)}>
            Keep mine
          </Button>
        </>
      ) : (
        <Button onClick={() => void saving.save()}>Save again</Button>
      )}
    </div>
  );
}

/** The cell a finding is about: the choice that holds a way, or the cell itself. */
function ownerOf(plan: Plan, key: string): string | null {
  const choice = blocksOf(plan).find((b) => b.block === "choice" && b.ways.some((w) => w.key === key));
  return choice?.block === "choice" ? choice.key : key === "" ? null : key;
}

/** Who keeps the plan: given on at once, whatever becomes of the draft. */
function Keeper({ plan, owner }: { plan: string; owner: string | null }) {
  const client = useQueryClient();
  const people = usePeople();
  const [kept, setKept] = useState(owner);
  const giving = useAct(async (key, to: string) => {
    await api.once(key).put(`/plans/${plan}/owner`, { owner: to });
    setKept(to);
    await client.invalidateQueries({ queryKey: ["plans"] });
  });
  return (
    <>
      <Labelled label="Kept by" hint="Whom to ask about it. Whoever takes it over is told.">
        <PersonSelect
          people={[...people.values()].filter((p) => !p.isGuest)}
          value={kept ?? ""}
          {...(kept ? {} : { nobody: "nobody yet" })}
          onChange={(to) => void giving.run(to)}
        />
      </Labelled>
      <Fault>{giving.fault}</Fault>
    </>
  );
}
