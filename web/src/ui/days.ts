import { dateLanguage } from "./time";

/** Days of the calendar (ISO 8601, "2026-11-13"): they have no zone, and are counted as the calendar has them. */
const DAY = 86_400_000;
const at = (iso: string) => Date.parse(`${iso}T00:00:00Z`);
const isoOf = (time: number) => new Date(time).toISOString().slice(0, 10);

export const dayAfter = (iso: string, days: number) => isoOf(at(iso) + days * DAY);

/** The same day of another month, or that month's last where it has none such. */
export function monthAfter(iso: string, months: number): string {
  const [year, month, day] = iso.split("-").map(Number) as [number, number, number];
  const last = new Date(Date.UTC(year, month - 1 + months + 1, 0)).getUTCDate();
  return isoOf(Date.UTC(year, month - 1 + months, Math.min(day, last)));
}

/** The weeks that show a day's month, each seven days. @param begins the day that weeks begin with, 0 for Sunday */
export function weeksOf(iso: string, begins: number): string[][] {
  const first = `${iso.slice(0, 7)}-01`;
  const before = (new Date(at(first)).getUTCDay() - begins + 7) % 7;
  const start = dayAfter(first, -before);
  const last = dayAfter(monthAfter(first, 1), -1);
  const count = Math.round((at(last) - at(start)) / DAY / 7 + 0.5);
  return Array.from({ length: count }, (_, week) => Array.from({ length: 7 }, (_, d) => dayAfter(start, week * 7 + d)));
}

/** The order in which the person's language writes day, month and year. */
export function orderOf(language = dateLanguage()): readonly ("day" | "month" | "year")[] {
  const parts = new Intl.DateTimeFormat(language, {
    day: "numeric",
    month: "numeric",
    year: "numeric",
    timeZone: "UTC",
  });
  const order = parts
    .formatToParts(0)
    .map((p) => p.type)
    .filter((t) => t === "day" || t === "month" || t === "year");
  return order.length === 3 ? order : ["day", "month", "year"];
}

/** A day in figures, as the person's language writes it, with a four-figure year. */
export function dayFigures(iso: string, language = dateLanguage()): string {
  if (!iso) return "";
  const how = { day: "2-digit", month: "2-digit", year: "numeric", timeZone: "UTC", numberingSystem: "latn" } as const;
  return new Intl.DateTimeFormat(language, { ...how, calendar: "gregory" }).format(new Date(at(iso)));
}

/**
 * The day that a text names: year first anywhere, otherwise in the order of the person's language; months by figure or by their English name.
 * Null for none. A year of two figures is of this century.
 */
export function dayFrom(text: string, language = dateLanguage()): string | null {
  const all = text
    .trim()
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u);
  const figures = all.filter((p) => /^\d+$/.test(p));
  // Three figures are a day, whatever words a language writes behind them.
  const parts = figures.length === 3 ? figures : all.filter((p) => p !== "");
  if (parts.length !== 3) return null;
  const named = parts.findIndex((p) => /^\p{L}/u.test(p));
  const order: readonly ("day" | "month" | "year")[] = /^\d{4}$/.test(parts[0]!)
    ? ["year", "month", "day"]
    : named === 0
      ? ["month", "day", "year"]
      : named === 1
        ? ["day", "month", "year"]
        : orderOf(language);
  const value = (name: "day" | "month" | "year") => parts[order.indexOf(name)]!;
  const month = named < 0 ? Number(value("month")) : monthNamed(value("month"), language);
  const [day, yearText] = [Number(value("day")), value("year")];
  if (!/^\d{4}$|^\d{2}$/.test(yearText) || !Number.isInteger(day) || !Number.isInteger(month)) return null;
  const year = Number(yearText) + (yearText.length === 2 ? 2000 : 0);
  if (year < 1000) return null;
  const time = Date.UTC(year, month - 1, day);
  const iso = Number.isNaN(time) ? "" : isoOf(time);
  // The thirtieth of February is no day.
  return iso === `${year}-${String(month).padStart(2, "0")}-${String(day).padStart(2, "0")}` ? iso : null;
}

/** The number of a month by the beginning of its name, in the pages' language or the person's; 0 for none. */
function monthNamed(word: string, language: string): number {
  if (word.length < 3) return 0;
  for (const names of [
    new Intl.DateTimeFormat("en-GB", { month: "long", timeZone: "UTC" }),
    new Intl.DateTimeFormat(language, { month: "long", timeZone: "UTC" }),
  ])
    for (let m = 0; m < 12; m++)
      if (
        names
          .format(Date.UTC(2026, m, 15))
          .toLowerCase()
          .startsWith(word)
      )
        return m + 1;
  return 0;
}
