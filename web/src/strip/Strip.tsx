import { lanesOf, stepsOf, type Block, type Person, type Step } from "../api/types";
import { shortDay, timeLeft } from "../ui/time";
import { kindOf, type StripState } from "./state";
import { useSeatCard, type Near } from "./useSeatCard";

/** The sign-off strip: a title block's signature cells, serial steps left to right, parallel seats stacked. */
export function Strip({ state, me, people }: { state: StripState; me?: string; people: ReadonlyMap<string, Person> }) {
  const { near, card } = useSeatCard(state, people);
  return (
    <div className="flex overflow-x-auto border border-ink bg-raised" role="group" aria-label="Sign-off strip">
      {card}
      {state.plan.root.blocks.map((b, i) => (
        <BlockCells key={i} block={b} state={state} me={me} people={people} near={near} />
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

type Shared = { state: StripState; me?: string; people: ReadonlyMap<string, Person>; near: Near };

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

function StepCell({ step, state, me, people, near }: { step: Step } & Shared) {
  return (
    <div className="flex min-w-[66px] flex-1 flex-col border-l border-ink first:border-l-0">
      {step.seats.map((seat) => {
        const filled = state.seats.find((s) => s.key === seat.key);
        if (!filled) return null;
        const kind = kindOf(state, step, filled);
        const due = state.due?.(step.key);
        const left = due && timeLeft(due.left, due.due);
        const mine = me !== undefined && filled.people.includes(me);
        const names = filled.people.map((p) => people.get(p)?.name ?? "").join(", ");
        const coming = kind === "empty" ? state.projected?.(step.key) : undefined;
        return (
          <div
            key={seat.key}
            tabIndex={0}
            {...near(step, seat, filled)}
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
                  {left && <span className={left.late ? "text-rust" : "text-soft"}>{left.words}</span>}
                </span>
              )}
              {kind === "returned" && <span className="sr-only">returned</span>}
              {coming?.prospect === "signed" && <span className="text-soft">by {shortDay(coming.finishes)}</span>}
              {coming?.prospect === "automatic" && <span className="text-soft">by rule</span>}
            </div>
          </div>
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
