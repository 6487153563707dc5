import type { TimeLeft } from "../api/types";

type Clock = Readonly<Record<"day" | "dayOfYear" | "short" | "full" | "time" | "date", Intl.DateTimeFormat>>;

const clockIn = (timeZone: string | undefined): Clock => {
  const of = (how: Intl.DateTimeFormatOptions, language = "en-GB") =>
    new Intl.DateTimeFormat(language, { ...how, ...(timeZone ? { timeZone } : {}) });
  return {
    day: of({ weekday: "short", day: "numeric", month: "short" }),
    dayOfYear: of({ day: "numeric", month: "short", year: "numeric" }),
    short: of({ day: "numeric", month: "short" }),
    full: of({ day: "numeric", month: "short", year: "numeric", hour: "2-digit", minute: "2-digit" }),
    time: of({ hour: "2-digit", minute: "2-digit" }),
    // As a calendar has it, year first.
    date: of({ year: "numeric", month: "2-digit", day: "2-digit" }, "sv-SE"),
  };
};
let clock = clockIn(undefined);

/** Tells times by a person's own zone from now on, as the office has it (IANA time zone database); by the browser's where it knows none such. */
export function keepClock(timeZone: string) {
  try {
    clock = clockIn(timeZone);
  } catch {
    clock = clockIn(undefined);
  }
}

/** The number of a moment's day on the person's calendar. */
const dayNumber = (d: Date) => Date.parse(`${clock.date.format(d)}T00:00:00Z`) / 86_400_000;

/** Today, as a desk calendar has it: "Friday 27 November". */
export const todayWords = (now = new Date()) =>
  new Intl.DateTimeFormat("en-GB", {
    weekday: "long",
    day: "numeric",
    month: "long",
    timeZone: clock.day.resolvedOptions().timeZone,
  }).format(now);

/** A time as people say it, by their own clock: "today 08:40", "Fri 13 Nov", and half a year away "13 Nov 2024". */
export function when(iso: string, now = new Date()): string {
  const d = new Date(iso);
  const days = dayNumber(now) - dayNumber(d);
  if (days === 0) return `today ${clock.time.format(d)}`;
  if (days === 1) return `yesterday ${clock.time.format(d)}`;
  // A weekday and a month would be taken for this year's.
  return Math.abs(days) > 182 ? clock.dayOfYear.format(d) : clock.day.format(d);
}
/** A day of the calendar, "2026-11-13", in words; it has no zone. */
export const dayWords = (iso: string) =>
  new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric", timeZone: "UTC" }).format(
    new Date(`${iso}T12:00Z`),
  );
export const shortDay = (iso: string) => clock.short.format(new Date(iso));
export const exactly = (iso: string) => clock.full.format(new Date(iso));

/** Time left in words, as the server has counted it by one's own calendar. */
export function timeLeft({ days, isToday, isLate }: TimeLeft, due: string): { words: string; late: boolean } {
  if (isLate) {
    if (isToday) return { words: "due today, passed", late: true };
    // Due at a weekend, and no working day since.
    if (days === 0) return { words: `was due ${clock.day.format(new Date(due))}`, late: true };
    return { words: `${-days} ${days === -1 ? "day" : "days"} over`, late: true };
  }
  if (isToday) return { words: "due today", late: false };
  if (days === 0) return { words: `due ${clock.day.format(new Date(due))}`, late: false };
  return { words: `${days} ${days === 1 ? "day" : "days"} left`, late: false };
}

/** A minute of the day as a clock shows it: 450 is "07:30". */
export const clockOf = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(minute % 60).padStart(2, "0")}`;
/** The minute of the day that a text names: "7:30", "07.30", "730" or "24:00"; null for anything else. */
export function minuteOf(text: string): number | null {
  const found = /^\s*(\d{1,2})(?:\s*[:.h]?\s*(\d{2}))?\s*$/.exec(text);
  if (!found) return null;
  const minute = Number(found[1]) * 60 + Number(found[2] ?? 0);
  return minute <= 1440 && Number(found[2] ?? 0) < 60 ? minute : null;
}
