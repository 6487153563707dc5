import { stepsOf, type Preview, type Remedy, type Stall, planOf } from "../api/types";
import { Button } from "../ui/kit";
import { dayOf, dayStart, exactly } from "../ui/time";

/** A forecast along a line of days: solid bars by the times allowed, thin lines to where nine runs in ten end. */
export function ForecastBars({ preview, labels = 9 }: { preview: Preview; labels?: number }) {
  const { forecast } = preview;
  if (!forecast)
    return <p className="text-soft">A forecast needs a plan that can be sent. Mend what the check found first.</p>;
  const names = new Map(stepsOf(planOf(preview)).map((s) => [s.key, s.name]));
  const from = dayStart(preview.now);
  const last = Math.max(
    new Date(forecast.finishes).getTime(),
    forecast.nineTenths ? new Date(forecast.nineTenths).getTime() : 0,
  );
  const days = Math.max(3, Math.ceil((last - from) / 86_400_000) + 1);
  const at = (iso: string) => ((new Date(iso).getTime() - from) / (days * 86_400_000)) * 100;
  const every = Math.ceil(days / labels);
  return (
    <figure>
      <figcaption className="mb-2 flex flex-wrap items-baseline gap-x-3">
        <span className="label">If sent now</span>
        <b className="font-semibold">
          {forecast.half && forecast.nineTenths
            ? `half of the time by ${dayOf(forecast.half)}, nine times out of ten by ${dayOf(forecast.nineTenths)}`
            : `through by ${dayOf(forecast.finishes)}, if everyone takes the time allowed`}
        </b>
        <span className="text-sm text-soft">
          {forecast.runs > 0
            ? `from ${forecast.samples} past passages, ${forecast.runs.toLocaleString("en-GB")} runs`
            : "too few packages have gone this way yet for a range"}
        </span>
      </figcaption>
      <div className="relative">
        <div className="ml-[150px] flex h-5 text-sm text-soft" aria-hidden>
          {Array.from({ length: days }, (_, i) => (
            <span key={i} className="min-w-0 flex-1 whitespace-nowrap">
              {/* A day's name needs the room of those until the next one. */}
              {i % every === 0 && i + every <= days ? dayOf(new Date(from + i * 86_400_000 + 43_200_000)) : ""}
            </span>
          ))}
        </div>
        {forecast.steps.map((s) => (
          <div key={s.step} className="flex h-6 items-center">
            <span className="w-[150px] shrink-0 truncate pr-2" title={names.get(s.step)}>
              {names.get(s.step)}
            </span>
            {s.prospect === "signed" ? (
              <span
                className="relative h-4 flex-1 border-l border-rule"
                title={`${exactly(s.arrives)} to ${exactly(s.finishes)}${s.isCritical ? "; a day more here is a day more for the package" : ""}`}
              >
                <span
                  className={`absolute top-0 h-4 border border-ink ${s.isCritical ? "bg-ink" : ""}`}
                  style={{ left: `${at(s.arrives)}%`, width: `${Math.max(0.4, at(s.finishes) - at(s.arrives))}%` }}
                />
                {s.half && s.nineTenths && (
                  <span
                    className="absolute top-[7px] h-0.5 border-r-2 border-spruce bg-spruce"
                    style={{ left: `${at(s.half)}%`, width: `${Math.max(0.3, at(s.nineTenths) - at(s.half))}%` }}
                  />
                )}
                <span className="sr-only">
                  from {dayOf(s.arrives)} to {dayOf(s.finishes)}
                  {s.isCritical ? ", on the critical path" : ""}
                </span>
              </span>
            ) : (
              <span className="flex-1 border-l border-rule pl-2 text-sm text-soft">
                {s.prospect === "automatic" ? `passes by itself: ${s.because}` : `not on this way: ${s.because}`}
              </span>
            )}
          </div>
        ))}
      </div>
    </figure>
  );
}

/** The room of a forecast of so many steps until it is there. */
export function ForecastComing({ steps }: { steps: number }) {
  return (
    <p role="status" className="waiting text-soft" style={{ minHeight: `${3 + steps * 1.5}rem` }}>
      Working out when it would be through …
    </p>
  );
}

/** What would keep the package waiting, each with what to do at a click. */
export function Stalls({
  preview,
  nameOf,
  onRemedy,
}: {
  preview: Preview;
  nameOf: (person: string) => string;
  /** Words for a remedy and what it does; null for one that this person cannot use here. */
  onRemedy: (remedy: Remedy, stall: Stall) => { words: string; act: () => void } | null;
}) {
  return (
    <>
      {preview.stalls.map((s, i) => (
        <div key={i} className="mb-3 border-l-[3px] border-rust pl-2.5">
          <p className="font-medium">{s.says}</p>
          {s.until && (
            <p className="text-sm text-soft">
              Away: {s.away.map(nameOf).join(", ")}; enough are back by {dayOf(s.until)}.
            </p>
          )}
          <div className="mt-1 flex flex-wrap gap-1.5">
            {s.remedies.map((r, k) => {
              const remedy = onRemedy(r, s);
              return (
                remedy && (
                  <Button key={k} onClick={remedy.act}>
                    {remedy.words}
                  </Button>
                )
              );
            })}
          </div>
        </div>
      ))}
    </>
  );
}
