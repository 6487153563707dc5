import { HoverCard } from "radix-ui";
import { lanesOf, stepsOf, type Block, type Person, type Plan, type Step } from "../api/types";
import { Formatted } from "./Formatted";
import { exactly, shortDay, timeLeft } from "./time";

/** What the strip needs to know of one seat. */
export type SeatState = {
  key: string;
  needed: number;
  people: readonly string[];
  signed: readonly { initials: string; at: string; returns: boolean; name?: string; words?: readonly string[] }[];
  skipped?: boolean;
};
export type StripState = {
  plan: Plan;
  seats: readonly SeatState[];
  open: readonly string[];
  passed: readonly string[];
  released: boolean;
  /** The way each choice took, by its key. */
  taken?: Readonly<Record<string, string>>;
  due?: (step: string) => string | undefined;
  /** Since when an open step waits. */
  since?: (step: string) => string | undefined;
  /** When a step to come will open and pass, as far as can be foreseen. */
  projected?: (step: string) => { arrives: string; finishes: string; prospect: string; because: string } | undefined;
};

type CellKind = "signed" | "open" | "returned" | "empty";

function kindOf(state: StripState, step: Step, seat: SeatState): CellKind {
  if (seat.signed.some((s) => s.returns)) return "returned";
  if (seat.signed.length >= seat.needed || state.passed.includes(step.key)) return "signed";
  return state.open.includes(step.key) ? "open" : "empty";
}

/** The sign-off strip: a title block's signature cells, serial steps left to right, parallel seats stacked. */
export function Strip({ state, me, people }: { state: StripState; me?: string; people: ReadonlyMap<string, Person> }) {
  return (
    <div className="flex overflow-x-auto border border-ink bg-raised" role="group" aria-label="Sign-off strip">
      {state.plan.root.blocks.map((b, i) => (
        <BlockCells key={i} block={b} state={state} me={me} people={people} />
      ))}
      <div
        className={`flex w-[58px] shrink-0 flex-col border-l border-ink px-1.5 py-1.5 first:border-l-0 ${state.released ? "bg-ink text-raised" : "hatched"}`}
      >
        <span className={`label ${state.released ? "!text-raised" : ""}`}>Release</span>
        {state.released && <span className="text-sm">done</span>}
      </div>
    </div>
  );
}

/** Pixels that a block's cells need at least, so that none runs into the next. */
function narrowest(block: Block): number {
  if (block.block === "step") return 66;
  const lanes = lanesOf(block).map((l) => l.blocks.reduce((n, b) => n + narrowest(b), 0));
  return (block.block === "choice" ? 60 : 0) + Math.max(100, ...lanes);
}

type Shared = { state: StripState; me?: string; people: ReadonlyMap<string, Person> };

function BlockCells({ block, ...shared }: { block: Block } & Shared) {
  if (block.block === "step") return <StepCell step={block} {...shared} />;
  const rows = lanesOf(block);
  const choice = block.block === "choice" ? block : null;
  const taken = choice && shared.state.taken?.[choice.key];
  return (
    <div className="flex flex-1 border-l border-ink first:border-l-0" style={{ minWidth: narrowest(block) }}>
      {choice && (
        <div className="hatched flex w-[58px] shrink-0 flex-col justify-center px-1.5 py-1" title={choice.name}>
          <span className="label">Choice</span>
          <span className="line-clamp-3 text-sm leading-tight">{choice.name}</span>
        </div>
      )}
      <div className={`flex min-w-0 flex-1 flex-col ${choice ? "border-l border-ink" : ""}`}>
        {rows.map((row, i) => {
          const way = choice?.ways[i];
          const off = taken !== undefined && taken !== null && way?.key !== taken;
          return (
            <div
              key={i}
              className={`flex min-w-0 flex-1 border-t border-ink first:border-t-0 ${off ? "bg-table" : ""}`}
            >
              {(row.blocks.length === 0 || off) && (
                <span className="self-center px-1.5 text-sm text-soft">
                  {way?.name}
                  {off ? " (not taken)" : row.blocks.length === 0 ? " (goes on)" : ""}
                </span>
              )}
              {!off && row.blocks.map((b, k) => <BlockCells key={k} block={b} {...shared} />)}
            </div>
          );
        })}
      </div>
    </div>
  );
}

function StepCell({ step, state, me, people }: { step: Step } & Shared) {
  return (
    <div className="flex min-w-[66px] flex-1 flex-col border-l border-ink first:border-l-0">
      {step.seats.map((seat) => {
        const filled = state.seats.find((s) => s.key === seat.key);
        if (!filled) return null;
        const kind = kindOf(state, step, filled);
        const due = state.due?.(step.key);
        const mine = me !== undefined && filled.people.includes(me);
        const names = filled.people.map((p) => people.get(p)?.name ?? "").join(", ");
        const coming = kind === "empty" ? state.projected?.(step.key) : undefined;
        return (
          <HoverCard.Root key={seat.key} openDelay={250} closeDelay={80}>
            <HoverCard.Trigger asChild>
              <div
                tabIndex={0}
                role="note"
                aria-label={`${step.name}, ${seat.role}`}
                aria-description={[
                  names,
                  filled.needed > 1 ? `${filled.needed} of ${filled.people.length} sign` : "",
                  step.instruction,
                  ...filled.signed.flatMap((g) => [g.name ?? g.initials, ...(g.words ?? [])]),
                ]
                  .filter(Boolean)
                  .join(". ")}
                className={`relative flex-1 border-t border-ink px-1.5 py-1.5 first:border-t-0 ${
                  kind === "open"
                    ? "z-10 bg-spruce-soft outline-2 -outline-offset-2 outline-spruce"
                    : kind === "empty"
                      ? "hatched"
                      : ""
                }`}
              >
                {kind === "returned" && (
                  <svg className="absolute top-0 right-0" width="14" height="14" aria-hidden>
                    <path d="M0 0H14V14z" className="fill-rust" />
                  </svg>
                )}
                <div className="label truncate">
                  {seat.role}
                  {filled.people.length > 1 && ` · ${filled.needed} of ${filled.people.length}`}
                </div>
                <div className="flex flex-wrap gap-x-2 text-sm leading-tight">
                  {filled.signed.map((s, i) => (
                    <span key={i} className="whitespace-nowrap">
                      <b className="font-semibold">{s.initials}</b> <span className="text-soft">{shortDay(s.at)}</span>
                    </span>
                  ))}
                  {filled.skipped && <span className="text-soft">skipped</span>}
                  {kind === "signed" && !filled.skipped && filled.signed.length === 0 && (
                    <span className="text-soft">by rule</span>
                  )}
                  {kind === "open" && filled.needed > 1 && (
                    <span className="whitespace-nowrap text-soft" data-testid={`count-${seat.key}`}>
                      {filled.signed.length} of {filled.needed}
                    </span>
                  )}
                  {kind === "open" && (
                    <span>
                      {mine && filled.signed.length === 0 && <b className="mr-1 font-semibold text-spruce">you</b>}
                      {due && (
                        <span className={timeLeft(due).late ? "text-rust" : "text-soft"}>{timeLeft(due).words}</span>
                      )}
                    </span>
                  )}
                  {kind === "returned" && <span className="sr-only">returned</span>}
                  {coming?.prospect === "signed" && <span className="text-soft">by {shortDay(coming.finishes)}</span>}
                  {coming?.prospect === "automatic" && <span className="text-soft">by rule</span>}
                </div>
              </div>
            </HoverCard.Trigger>
            <HoverCard.Portal>
              <HoverCard.Content
                sideOffset={4}
                collisionPadding={8}
                className="z-50 w-80 rounded-md border border-rule bg-raised p-3 shadow-lg"
              >
                <p className="flex justify-between gap-3">
                  <b className="font-semibold">{step.name}</b>
                  <span className="text-soft">
                    {step.workingDays} {step.workingDays === 1 ? "day" : "days"} allowed
                  </span>
                </p>
                <div className="mt-1">
                  <Formatted text={step.instruction} />
                </div>
                <p className="mt-2">
                  <span className="label">{seat.role}</span> {names || "whoever signs the earlier step"}
                  {filled.people.length > 1 && `, ${filled.needed} of ${filled.people.length}`}
                </p>
                {filled.signed.map((g, i) => (
                  <div key={i} className={`mt-2 border-l-[3px] pl-2 ${g.returns ? "border-rust" : "border-ink"}`}>
                    <b className="font-semibold">{g.name ?? g.initials}</b>{" "}
                    <span className="text-soft">
                      {g.returns ? "returned" : "signed"} {exactly(g.at)}
                    </span>
                    {g.words?.map((w, k) => (
                      <p key={k}>{w}</p>
                    ))}
                  </div>
                ))}
                {kind === "open" && (
                  <p className="mt-2 text-soft">
                    {state.since?.(step.key) && `Awaited since ${exactly(state.since(step.key)!)}. `}
                    {due && `Due ${exactly(due)}.`}
                  </p>
                )}
                {coming?.prospect === "signed" && (
                  <p className="mt-2 text-soft">
                    Expected to open {exactly(coming.arrives)} and to pass by {exactly(coming.finishes)}.
                  </p>
                )}
                {coming && coming.prospect !== "signed" && coming.because && (
                  <p className="mt-2 text-soft">
                    {coming.prospect === "automatic" ? "Passes by itself: " : "Not on this way: "}
                    {coming.because}
                  </p>
                )}
              </HoverCard.Content>
            </HoverCard.Portal>
          </HoverCard.Root>
        );
      })}
    </div>
  );
}

/** The strip in miniature: told by fill, outline, fold and hatching. */
export function MiniStrip({ state }: { state: StripState }) {
  const { plan } = state;
  const words = `${state.passed.length} of ${stepsOf(plan).length} steps passed${state.released ? ", released" : ""}`;
  return (
    <div className="flex h-[34px] w-[104px] border border-ink bg-raised" role="img" aria-label={words}>
      {plan.root.blocks.map((b, i) => (
        <MiniBlock key={i} block={b} state={state} />
      ))}
      <div className={`flex-1 border-l border-ink ${state.released ? "bg-ink" : "hatched"}`} />
    </div>
  );
}

function MiniBlock({ block, state }: { block: Block; state: StripState }) {
  if (block.block === "step")
    return (
      <div className="flex flex-1 flex-col border-l border-ink first:border-l-0">
        {block.seats.map((seat) => {
          const filled = state.seats.find((s) => s.key === seat.key);
          const kind = filled ? kindOf(state, block, filled) : "empty";
          return (
            <div
              key={seat.key}
              className={`relative flex-1 border-t border-ink first:border-t-0 ${kind === "signed" ? "bg-ink" : kind === "empty" ? "hatched" : ""}`}
            >
              {kind === "open" && (
                <div
                  className="absolute inset-[2px] bg-spruce"
                  style={{ width: filled && filled.signed.length > 0 ? "50%" : undefined }}
                />
              )}
              {kind === "returned" && (
                <svg className="absolute inset-0 h-full w-full" preserveAspectRatio="none" viewBox="0 0 10 10">
                  <path d="M0 0H10V10z" className="fill-rust" />
                </svg>
              )}
            </div>
          );
        })}
      </div>
    );
  const taken = block.block === "choice" ? state.taken?.[block.key] : undefined;
  const rows = lanesOf(block);
  return (
    <div className="flex flex-1 flex-col border-l border-ink first:border-l-0">
      {rows.map((row, i) => (
        <div
          key={i}
          className={`flex flex-1 border-t border-ink first:border-t-0 ${taken !== undefined && block.block === "choice" && block.ways[i]?.key !== taken ? "hidden" : ""}`}
        >
          {row.blocks.map((b, k) => (
            <MiniBlock key={k} block={b} state={state} />
          ))}
        </div>
      ))}
    </div>
  );
}
