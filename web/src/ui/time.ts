import type { TimeLeft } from "../api/types";

const day = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short" });
const dayOfYear = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const short = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });
const full = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  year: "numeric",
  hour: "2-digit",
  minute: "2-digit",
});
const clock = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });

const startOfDay = (d: Date) => new Date(d.getFullYear(), d.getMonth(), d.getDate()).getTime();

/** A time as people say it, in the viewer's own time zone: "today 08:40", "Fri 13 Nov", and half a year away "13 Nov 2024". */
export function when(iso: string, now = new Date()): string {
  const d = new Date(iso);
  const days = Math.round((startOfDay(now) - startOfDay(d)) / 86_400_000);
  if (days === 0) return `today ${clock.format(d)}`;
  if (days === 1) return `yesterday ${clock.format(d)}`;
  // A weekday and a month would be taken for this year's.
  return Math.abs(days) > 182 ? dayOfYear.format(d) : day.format(d);
}
/** A day of the calendar, "2026-11-13", in words; it has no zone. */
export const dayWords = (iso: string) => dayOfYear.format(new Date(`${iso}T12:00`));
export const shortDay = (iso: string) => short.format(new Date(iso));
export const exactly = (iso: string) => full.format(new Date(iso));

/** Time left in words, as the server has counted it by one's own calendar. */
export function timeLeft({ days, isToday, isLate }: TimeLeft, due: string): { words: string; late: boolean } {
  if (isLate) {
    if (isToday) return { words: "due today, passed", late: true };
    // Due at a weekend, and no working day since.
    if (days === 0) return { words: `was due ${day.format(new Date(due))}`, late: true };
    return { words: `${-days} ${days === -1 ? "day" : "days"} over`, late: true };
  }
  if (isToday) return { words: "due today", late: false };
  if (days === 0) return { words: `due ${day.format(new Date(due))}`, late: false };
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
