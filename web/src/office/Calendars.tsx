import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { api } from "../api/client";
import type { CalendarRow, DayPart as Part } from "../api/types";
import { Awaited } from "../ui/Awaited";
import { Button, Empty, Fault, Labelled, TimeField } from "../ui/kit";
import { DateField } from "../ui/DateField";
import { dayWords } from "../ui/time";
import { useAddress } from "../lists/useAddress";
import { Unkept } from "../kept/Unkept";
import { putOn, putWhole } from "../kept/putOn";
import { useChange } from "../kept/useChange";
import { ListBeside } from "./ListBeside";
import { useKeep } from "./useKeep";

const usual: Part[] = [
  { from: 510, to: 720 },
  { from: 780, to: 1050 },
];
const days = ["Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"];
const hoursOf = (parts: readonly Part[]) => parts.reduce((n, p) => n + p.to - p.from, 0) / 60;

/** Calendars: the week an office works and the days that differ. Due times and forecasts follow them. */
export function Calendars() {
  const list = useQuery({
    queryKey: ["calendars"],
    queryFn: () => api.get("/calendars"),
    meta: { saysItself: true },
  });
  const { data } = list;
  const [picked, setPicked] = useAddress("calendar");
  const calendar =
    picked === ""
      ? { id: "", name: "", week: days.map((_, d) => (d % 6 === 0 ? [] : usual)), holidays: [] }
      : (data?.find((c) => c.id === picked) ?? (picked === null ? data?.[0] : undefined));
  return (
    <ListBeside
      label="Calendars"
      rows={(data ?? []).map((c) => ({
        id: c.id,
        name: c.name,
        beside: `${c.week.reduce((n, d) => n + hoursOf(d), 0)} hours a week`,
      }))}
      picked={calendar?.id ?? null}
      onPick={setPicked}
      add="Add a calendar"
      onAdd={() => setPicked("")}
    >
      {calendar ? (
        <CalendarForm key={calendar.id} calendar={calendar} onMade={setPicked} onGone={() => setPicked(null)} />
      ) : data ? (
        <Empty title="Pick a calendar" />
      ) : (
        <Awaited what="the calendars" of={list} />
      )}
    </ListBeside>
  );
}

function Parts({ parts, label, onChange }: { parts: readonly Part[]; label: string; onChange: (p: Part[]) => void }) {
  const set = (i: number, patch: Partial<Part>) => onChange(parts.map((p, k) => (k === i ? { ...p, ...patch } : p)));
  return (
    <span className="flex flex-1 flex-wrap items-center gap-x-3 gap-y-1">
      {parts.length === 0 && <span className="text-soft">no work</span>}
      {parts.map((p, i) => (
        <span key={i} className="flex items-center gap-1">
          <TimeField label={`${label}, part ${i + 1} from`} minute={p.from} onChange={(from) => set(i, { from })} />
          –
          <TimeField label={`${label}, part ${i + 1} to`} minute={p.to} onChange={(to) => set(i, { to })} />
          <button
            type="button"
            aria-label={`Remove part ${i + 1} of ${label}`}
            className="rounded p-1 hover:bg-picked"
            onClick={() => onChange(parts.filter((_, k) => k !== i))}
          >
            <X size={13} />
          </button>
        </span>
      ))}
      <button
        type="button"
        className="underline"
        aria-label={`Add hours on ${label}`}
        onClick={() => {
          const from = Math.min(1380, (parts.at(-1)?.to ?? 450) + 60);
          onChange([...parts, { from, to: Math.min(1440, from + 240) }]);
        }}
      >
        add hours
      </button>
    </span>
  );
}

type Week = readonly (readonly Part[])[];
type Holidays = readonly { day: string; name: string; left: readonly Part[] }[];

type CalendarChange = { name: string; week: Week; holidays: Holidays };

/** What is changed of a calendar on what it is now: each day of the week by itself, its hours whole. */
const putDays = (was: CalendarChange, theirs: CalendarChange, now: CalendarChange): CalendarChange => ({
  ...putOn(was, theirs, now),
  week: now.week.map((parts, d) => putWhole(was.week[d] ?? parts, theirs.week[d] ?? parts, parts)),
});

function CalendarForm({
  calendar,
  onMade,
  onGone,
}: {
  calendar: CalendarRow;
  onMade: (id: string) => void;
  onGone: () => void;
}) {
  const was = { name: calendar.name, week: calendar.week, holidays: calendar.holidays };
  const form = useChange<CalendarChange>(`change of calendar ${calendar.id || "new"}`, was, putDays);
  const { name, week } = form.value;
  const holidays = [...form.value.holidays].sort((a, b) => a.day.localeCompare(b.day));
  const setName = (name: string) => form.set({ name });
  const setWeek = (week: Week) => form.set({ week });
  const setHolidays = (holidays: Holidays) => form.set({ holidays });
  const [day, setDay] = useState("");
  const { keep, fault, kept, isBusy } = useKeep();
  const isNew = calendar.id === "";
  const save = async () => {
    const body = { name, week, holidays };
    const made = await keep(async (key) => {
      if (isNew) return api.once(key).post("/calendars", body);
      await api.once(key).put(`/calendars/${calendar.id}`, { ...body, was });
      return null;
    });
    if (made === undefined) return;
    form.discard();
    if (made) onMade(made.id);
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <h2 className="mb-3 text-xl font-semibold">{isNew ? "New calendar" : calendar.name}</h2>
      <Unkept {...form} />
      <Labelled label="Name">
        <input className="field" required maxLength={60} value={name} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <h3 className="label mb-1">The week, in each person&apos;s own time zone</h3>
      <ul className="mb-4 border border-rule bg-raised">
        {[1, 2, 3, 4, 5, 6, 0].map((d) => (
          <li key={d} className="flex items-center gap-3 border-t border-rule px-3 py-1.5 first:border-t-0">
            <span className="w-24">{days[d]}</span>
            <Parts
              label={days[d]!}
              parts={week[d] ?? []}
              onChange={(parts) => setWeek(week.map((w, k) => (k === d ? parts : w)))}
            />
            <span className="w-12 text-right text-sm text-soft">{hoursOf(week[d] ?? [])} h</span>
          </li>
        ))}
      </ul>
      <h3 className="label mb-1">Days that differ</h3>
      {holidays.length === 0 && <p className="text-soft">None yet. A holiday has no hours, a half day has some.</p>}
      <ul className="mb-2">
        {holidays.map((h, i) => (
          <li key={h.day} className="flex flex-wrap items-center gap-3 border-b border-dotted border-rule py-1.5">
            <span className="w-24 whitespace-nowrap">{dayWords(h.day)}</span>
            <input
              className="field !w-44"
              aria-label={`Name of ${h.day}`}
              required
              maxLength={80}
              value={h.name}
              onChange={(e) => setHolidays(holidays.map((x, k) => (k === i ? { ...x, name: e.target.value } : x)))}
            />
            <Parts
              label={h.day}
              parts={h.left}
              onChange={(left) => setHolidays(holidays.map((x, k) => (k === i ? { ...x, left } : x)))}
            />
            <button
              type="button"
              aria-label={`Remove ${h.name || h.day}`}
              className="rounded p-1 hover:bg-picked"
              onClick={() => setHolidays(holidays.filter((_, k) => k !== i))}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ul>
      <div className="mb-4 flex gap-2">
        <DateField className="!w-44" label="Day" value={day} onChange={setDay} />
        <Button
          disabled={!day || holidays.some((h) => h.day === day)}
          onClick={() => {
            setHolidays([...holidays, { day, name: "Holiday", left: [] }]);
            setDay("");
          }}
        >
          Add the day
        </Button>
      </div>
      <Fault>{fault}</Fault>
      <div className="flex items-center gap-3">
        <Button look="main" type="submit" disabled={isBusy}>
          {isNew ? "Add" : "Keep"}
        </Button>
        {kept && <span role="status">Kept.</span>}
        {!isNew && (
          <Button
            look="quiet"
            className="ml-auto"
            onClick={() =>
              void keep(async (key) => {
                await api.once(key).delete(`/calendars/${calendar.id}`);
                return true;
              }).then((gone) => {
                if (!gone) return;
                form.discard();
                onGone();
              })
            }
          >
            Remove the calendar
          </Button>
        )}
      </div>
    </form>
  );
}
