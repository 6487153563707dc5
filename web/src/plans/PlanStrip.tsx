import { AlarmClock, Check, CornerUpLeft, LogIn, Mail, Plus } from "lucide-react";
import { lanesOf, type Block, type Finding, type Holder, type Plan, type Step } from "../api/types";

import { moments } from "../slip/moments";

type Shared = {
  plan: Plan;
  picked: string | null;
  findings: readonly Finding[];
  words: Readonly<Record<string, string>>;
  nameOf: (holder: Holder) => string;
  onPick: (key: string | null) => void;
  onAdd: (after: string) => void;
  onAddToWay: (choice: string, way: string) => void;
};

/** A plan as a large strip whose cells are edited in place: steps left to right, branches stacked, a choice as a hatched notch. */
export function PlanStrip(props: Shared & { onAddFirst: () => void }) {
  const { plan, picked, onPick, onAddFirst } = props;
  return (
    <div className="overflow-x-auto pb-2">
      <div
        className="flex min-h-[220px] min-w-max border border-ink bg-raised"
        role="group"
        aria-label="The plan's strip"
      >
        {plan.root.blocks.map((b, i) => (
          <Cells key={i} block={b} {...props} />
        ))}
        {plan.root.blocks.length === 0 && (
          <button type="button" autoFocus className="m-6 self-center underline" onClick={onAddFirst}>
            Add the first step
          </button>
        )}
        <button
          type="button"
          aria-pressed={picked === "closing"}
          className={`hatched flex w-[128px] shrink-0 flex-col border-l border-ink p-2.5 text-left ${picked === "closing" ? "z-10 outline-2 -outline-offset-2 outline-spruce" : ""}`}
          onClick={() => onPick("closing")}
        >
          <span className="label">Closing</span>
          <span className="text-lg leading-tight font-semibold">Release</span>
          <span className="mt-1 text-sm">Lock, supersede the earlier</span>
          {plan.itemByItem && <span className="mt-1 text-sm">Item by item</span>}
          {plan.holdsNoted && <span className="mt-1 text-sm">What is noted is answered first</span>}
          {(plan.closing ?? []).map((c, i) => (
            <span key={i} className="mt-1 text-sm">
              {c.action === "fileUnder"
                ? `${c.copy ? "Copy to" : "File under"} ${c.folder?.split(" / ").slice(-2).join(" / ") || "…"}`
                : c.action === "informGroup"
                  ? "Inform a group"
                  : c.action === "fileWherePicked"
                    ? "File where a signer picks"
                    : `Prepare “${c.title || "the next package"}”`}
            </span>
          ))}
        </button>
      </div>
    </div>
  );
}

function Cells({ block, ...shared }: { block: Block } & Shared) {
  if (block.block === "step") return <StepCell step={block} {...shared} />;
  const choice = block.block === "choice" ? block : null;
  return (
    <div className={`flex border-l border-ink first:border-l-0 ${choice ? "flex-[2]" : "flex-1"}`}>
      {choice && (
        <button
          type="button"
          data-cell={choice.key}
          aria-pressed={shared.picked === choice.key}
          className={`hatched flex w-[100px] shrink-0 flex-col p-2.5 text-left ${shared.picked === choice.key ? "z-10 outline-2 -outline-offset-2 outline-spruce" : ""}`}
          onClick={() => shared.onPick(choice.key)}
        >
          <span className="label">Choice</span>
          <span className="text-lg leading-tight font-semibold">{choice.name}</span>
          <span className="mt-1 text-sm text-soft">{choice.pickedAt ? "a signer picks" : "by rule"}</span>
          <FindingCount cell={[choice.key, ...choice.ways.map((w) => w.key)]} findings={shared.findings} />
        </button>
      )}
      <div className={`flex flex-1 flex-col ${choice ? "border-x border-ink" : ""}`}>
        {lanesOf(block).map((lane, i) => {
          const way = choice?.ways[i];
          return (
            <div key={way?.key ?? i} className="flex flex-1 flex-col border-t border-ink first:border-t-0">
              {way && choice && (
                <div className="border-b border-rule px-2.5 py-1 text-sm">
                  <p className="flex items-baseline justify-between gap-3">
                    <b className="font-semibold">{way.name}</b>
                    <button
                      type="button"
                      className="whitespace-nowrap underline"
                      aria-label={`Add a step to the way ${way.name}`}
                      onClick={() => shared.onAddToWay(choice.key, way.key)}
                    >
                      add step
                    </button>
                  </p>
                  <p className="text-soft">
                    {i === choice.ways.length - 1
                      ? "in every other case"
                      : choice.pickedAt
                        ? "when a signer picks it"
                        : `if ${shared.words[way.key] ?? "…"}`}
                  </p>
                </div>
              )}
              <div className="flex flex-1">
                {lane.blocks.map((b, k) => (
                  <Cells key={k} block={b} {...shared} />
                ))}
                {lane.blocks.length === 0 && (
                  <span className="min-w-[150px] self-center p-2.5 text-sm text-soft">
                    Goes straight on, nobody signs here.
                  </span>
                )}
              </div>
            </div>
          );
        })}
      </div>
      {choice && <AddButton words={`Add a step after ${choice.name}`} onClick={() => shared.onAdd(choice.key)} />}
    </div>
  );
}

/** One look at a plan shows where messages go out: on arrival, passage, return, lateness. */
const signs = { arrival: LogIn, passage: Check, return: CornerUpLeft, late: AlarmClock };

function FindingCount({ cell, findings }: { cell: string[]; findings: readonly Finding[] }) {
  const n = findings.filter((f) => cell.includes(f.cell)).length;
  return n > 0 ? (
    <span className="mt-1 self-end text-sm font-semibold text-rust">
      {n} {n === 1 ? "finding" : "findings"}
    </span>
  ) : null;
}

/** Adds behind a cell; it has a place of its own beside it, so that neither lies over the other. */
function AddButton({ words, onClick }: { words: string; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-label={words}
      title={words}
      className="mx-0.5 grid h-6 w-6 shrink-0 place-items-center self-center rounded-full border border-ink bg-raised hover:bg-picked"
      onClick={onClick}
    >
      <Plus size={13} />
    </button>
  );
}

function StepCell({ step, picked, findings, words, nameOf, onPick, onAdd }: { step: Step } & Shared) {
  const told = [...new Set((step.tells ?? []).map((t) => t.at))];
  return (
    <div className="flex min-w-[184px] flex-1 border-l border-ink first:border-l-0">
      <button
        type="button"
        data-cell={step.key}
        aria-pressed={picked === step.key}
        className={`flex w-0 flex-1 flex-col p-2.5 text-left wrap-anywhere ${picked === step.key ? "z-10 bg-spruce-soft outline-2 -outline-offset-2 outline-spruce" : "hover:bg-lit"}`}
        onClick={() => onPick(step.key)}
      >
        <span className="flex w-full justify-between gap-2">
          <span className="label">Step</span>
          <span className="label">
            {step.workingDays} {step.workingDays === 1 ? "day" : "days"}
          </span>
        </span>
        <span className="text-lg leading-tight font-semibold">{step.name || "No name yet"}</span>
        {step.seats.map((s) => (
          <span key={s.key} className="mt-1 flex items-start gap-2">
            <span className="shrink-0 border border-ink px-1.5 text-xs leading-[18px]">
              {s.holder.holder === "group" ? (s.holder.needed === 0 ? "all" : s.holder.needed) : 1}
            </span>
            <span className="text-sm leading-tight">
              <b className="font-semibold">{s.role}</b> <span className="text-soft">{nameOf(s.holder)}</span>
            </span>
          </span>
        ))}
        <span className="flex-1" />
        {step.passesWhen && (
          <span className="mt-1 text-sm text-soft">passes by itself if {words[step.key] ?? "…"}</span>
        )}
        {step.returnsTo && <span className="mt-1 text-sm text-soft">returns to an earlier step</span>}
        {(told.length > 0 || (step.reminders ?? []).length > 0) && (
          <span className="mt-1.5 flex flex-wrap items-center gap-1.5 text-soft">
            <Mail size={12} aria-hidden />
            {told.map((at) => {
              const Sign = signs[at];
              return (
                <span key={at} title={`Others hear when ${moments[at]}`}>
                  <Sign size={13} aria-hidden />
                  <span className="sr-only">others hear when {moments[at]}</span>
                </span>
              );
            })}
            {(step.reminders ?? []).length > 0 && (
              <span className="text-xs">
                reminds {step.reminders!.join(", ")} {step.reminders!.at(-1) === 1 ? "day" : "days"} before
              </span>
            )}
          </span>
        )}
        <FindingCount cell={[step.key, ...step.seats.map((s) => s.key)]} findings={findings} />
      </button>
      <AddButton words={`Add a step after ${step.name}`} onClick={() => onAdd(step.key)} />
    </div>
  );
}
