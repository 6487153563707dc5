import { CalendarDays, ChevronLeft, ChevronRight } from "lucide-react";
import { Popover } from "radix-ui";
import { useEffect, useRef, useState, type RefObject } from "react";
import { dayAfter, dayFigures, dayFrom, monthAfter, weeksOf } from "./days";
import { dayIn, dayWords, monthWords, weekBegins, weekdayWords } from "./time";
import { unlessGoneOn } from "./unlessGoneOn";

/** A day of the calendar, typed or picked. @param value as ISO 8601 has it, "2026-11-13"; empty for none */
export function DateField({
  value,
  onChange,
  label,
  className = "",
}: {
  value: string;
  onChange: (day: string) => void;
  /** For a field without a visible label. */
  label?: string;
  className?: string;
}) {
  const [open, setOpen] = useState(false);
  /** What is typed and is no day yet. */
  const [typed, setTyped] = useState<string | null>(null);
  const isWrong = typed !== null && typed.trim() !== "" && dayFrom(typed) === null;
  const field = useRef<HTMLSpanElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  return (
    <span ref={field} className={`relative inline-block w-full ${className}`}>
      <input
        className={`field w-full !pr-8 ${isWrong ? "!border-rust" : ""} ${value ? "text-ink" : ""}`}
        aria-label={label}
        aria-invalid={isWrong}
        maxLength={40}
        placeholder={dayFigures("2026-12-31").replace("31", "dd").replace("12", "mm").replace("2026", "yyyy")}
        title={
          isWrong
            ? "No day yet. Write it like the others, or with the year first."
            : value
              ? dayWords(value)
              : undefined
        }
        value={typed ?? dayFigures(value)}
        onChange={(e) => {
          setTyped(e.target.value);
          const day = e.target.value.trim() === "" ? "" : dayFrom(e.target.value);
          if (day !== null && day !== value) onChange(day);
        }}
        onBlur={() => !isWrong && setTyped(null)}
        onKeyDown={(e) => {
          if (e.key !== "ArrowDown" || !e.altKey) return;
          e.preventDefault();
          setOpen(true);
        }}
      />
      <button
        ref={button}
        type="button"
        aria-label={label ? `Calendar for ${label}` : "Calendar"}
        aria-haspopup="dialog"
        aria-expanded={open}
        className="absolute top-1/2 right-1 grid h-6 w-6 -translate-y-1/2 place-items-center rounded hover:bg-picked"
        onClick={() => setOpen(!open)}
      >
        <CalendarDays size={14} />
      </button>
      {/* A closed one has the page drawn twice before it is seen. */}
      {open && (
        <Popover.Root open onOpenChange={setOpen}>
          <Popover.Anchor virtualRef={field as RefObject<HTMLSpanElement>} />
          <Popover.Portal>
            <Popover.Content
              align="start"
              sideOffset={4}
              aria-label="Calendar"
              onCloseAutoFocus={unlessGoneOn}
              className="z-[60] rounded-md border border-rule bg-raised p-2 shadow-lg"
              // The field's own button closes it by itself.
              onInteractOutside={(e) => button.current?.contains(e.target as Node) && e.preventDefault()}
              onOpenAutoFocus={(e) => {
                e.preventDefault();
                (e.currentTarget as HTMLElement).querySelector<HTMLElement>("td [tabindex='0']")?.focus();
              }}
            >
              <Month
                value={value}
                onPick={(day) => {
                  setTyped(null);
                  setOpen(false);
                  onChange(day);
                }}
              />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </span>
  );
}

/** A month of days, gone through by arrows (the grid pattern of WAI-ARIA). */
function Month({ value, onPick }: { value: string; onPick: (day: string) => void }) {
  const today = dayIn(new Date());
  const [at, setAt] = useState(value || today);
  const grid = useRef<HTMLTableElement>(null);
  useEffect(() => {
    grid.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus();
  }, [at]);
  const begins = weekBegins();
  const weeks = weeksOf(at, begins);
  const weekday = (new Date(`${at}T00:00:00Z`).getUTCDay() - begins + 7) % 7;
  const key = (e: React.KeyboardEvent) => {
    const steps: Record<string, () => string> = {
      ArrowLeft: () => dayAfter(at, -1),
      ArrowRight: () => dayAfter(at, 1),
      ArrowUp: () => dayAfter(at, -7),
      ArrowDown: () => dayAfter(at, 7),
      Home: () => dayAfter(at, -weekday),
      End: () => dayAfter(at, 6 - weekday),
      PageUp: () => monthAfter(at, e.shiftKey ? -12 : -1),
      PageDown: () => monthAfter(at, e.shiftKey ? 12 : 1),
    };
    const step = steps[e.key];
    if (!step) return;
    e.preventDefault();
    setAt(step());
  };
  return (
    <>
      <div className="mb-1 flex items-center gap-1">
        <button
          type="button"
          aria-label="Month before"
          className="rounded p-1 hover:bg-picked"
          onClick={() => setAt(monthAfter(at, -1))}
        >
          <ChevronLeft size={15} />
        </button>
        <span aria-live="polite" className="flex-1 text-center font-semibold">
          {monthWords(at)}
        </span>
        <button
          type="button"
          aria-label="Month after"
          className="rounded p-1 hover:bg-picked"
          onClick={() => setAt(monthAfter(at, 1))}
        >
          <ChevronRight size={15} />
        </button>
      </div>
      <table ref={grid} role="grid" aria-label={monthWords(at)} onKeyDown={key}>
        <thead>
          <tr>
            {weeks[0]!.map((day) => (
              <th key={day} scope="col" className="w-9 pb-1 text-center text-sm font-normal text-soft">
                {weekdayWords(day)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {weeks.map((week) => (
            <tr key={week[0]}>
              {week.map((day) => (
                <td key={day} role="gridcell" aria-selected={day === value} className="p-0 text-center">
                  <button
                    type="button"
                    tabIndex={day === at ? 0 : -1}
                    aria-label={dayWords(day)}
                    aria-current={day === today ? "date" : undefined}
                    className={`h-8 w-8 rounded hover:bg-picked ${
                      day === value ? "bg-ink font-semibold text-raised" : day === today ? "border border-ink" : ""
                    } ${day.slice(0, 7) === at.slice(0, 7) ? "" : "text-soft"}`}
                    onClick={() => onPick(day)}
                  >
                    {Number(day.slice(8))}
                  </button>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
