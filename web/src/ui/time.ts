import type { DateManner, TimeLeft } from "../api/types";

type Told = "day" | "dayOfYear" | "short" | "full" | "time" | "calendarDay" | "today" | "month" | "weekday";
/** Made when it is first used: a format takes a millisecond and more, a page uses three or four of them. */
type Format = () => Intl.DateTimeFormat;
type Clock = {
  readonly told: Readonly<Record<Told, Format>>;
  /** The day's date in the zone, year first, to count with. */
  readonly date: Format;
  readonly language: string;
  readonly zone: string;
  readonly isTwelve: boolean;
  /** 0 for Sunday. */
  readonly weekBegins: number;
};

/** The language of the pages' own words. */
const PAGES = "en-GB";
const usual: DateManner = { language: "", hours: "byLanguage", weekBegins: "byLanguage" };
/** For how many milliseconds the browser's zone is taken to be what it was: each row of a list asks for it. */
const ZONE_HOLDS = 10_000;
let zoneSeen = { zone: "", at: -Infinity };
function browsersZone(): string {
  const now = performance.now();
  if (now - zoneSeen.at > ZONE_HOLDS) zoneSeen = { zone: Intl.DateTimeFormat().resolvedOptions().timeZone, at: now };
  return zoneSeen.zone;
}

/** The day that a language's calendars begin with; Monday (ISO 8601) where the browser does not know. */
function firstDay(language: string): number {
  type Week = { firstDay: number };
  const locale = new Intl.Locale(language) as Intl.Locale & { getWeekInfo?: () => Week; weekInfo?: Week };
  return (locale.getWeekInfo?.() ?? locale.weekInfo)?.firstDay ?? 1;
}

function once(language: string, how: Intl.DateTimeFormatOptions): Format {
  let made: Intl.DateTimeFormat | null = null;
  return () => (made ??= new Intl.DateTimeFormat(language, how));
}

function clockIn(timeZone: string | undefined, manner: DateManner): Clock {
  const language = manner.language || PAGES;
  const hours: Intl.DateTimeFormatOptions =
    manner.hours === "twelve" ? { hour12: true } : manner.hours === "twentyFour" ? { hourCycle: "h23" } : {};
  const zone = timeZone ? { timeZone } : {};
  // What is signed and due is told by one calendar everywhere, whatever else a language counts by.
  const of = (how: Intl.DateTimeFormatOptions) => once(language, { calendar: "gregory", ...zone, ...how });
  const clock: Intl.DateTimeFormatOptions = { hour: "2-digit", minute: "2-digit", ...hours };
  const day: Intl.DateTimeFormatOptions = { day: "numeric", month: "short", year: "numeric" };
  const time = of(clock);
  // At once: a zone or a language that the browser does not know is found out here.
  const known = time().resolvedOptions();
  return {
    told: {
      day: of({ weekday: "short", day: "numeric", month: "short" }),
      dayOfYear: of(day),
      short: of({ day: "numeric", month: "short" }),
      full: of({ ...day, ...clock }),
      time,
      today: of({ weekday: "long", day: "numeric", month: "long" }),
      // A day of the calendar has no zone.
      calendarDay: of({ ...day, timeZone: "UTC" }),
      month: of({ month: "long", year: "numeric", timeZone: "UTC" }),
      weekday: of({ weekday: "short", timeZone: "UTC" }),
    },
    date: once("sv-SE", { year: "numeric", month: "2-digit", day: "2-digit", ...zone }),
    language,
    zone: known.timeZone,
    isTwelve: known.hour12 === true,
    weekBegins: { byLanguage: firstDay(language), monday: 1, saturday: 6, sunday: 0 }[manner.weekBegins] % 7,
  };
}
/** By which zone and in which manner times are told; in the browser's zone until a person is known. */
let kept = { zone: undefined as string | undefined, manner: usual, key: "" };
/** Not before it is asked for: the first format of a page takes as long as the rest of its script. */
let running: Clock | null = null;
const clock = () => (running ??= clockAsKept());

/** The clock that is asked for; in the pages' own words, or by the browser's zone, where it does not know that language or zone. */
function clockAsKept(): Clock {
  const { zone, manner } = kept;
  const plain = { ...manner, language: "" };
  for (const [by, how] of [
    [zone, manner],
    [zone, plain],
  ] as const)
    try {
      return clockIn(by, how);
    } catch (e) {
      if (!(e instanceof RangeError)) throw e;
    }
  return clockIn(undefined, plain);
}

/** Tells times from now on by a person's own zone, as the office has it (IANA time zone database), in the manner they chose. */
export function keepClock(timeZone: string, manner: DateManner = usual) {
  const key = JSON.stringify([timeZone, manner]);
  if (key === kept.key) return;
  kept = { zone: timeZone, manner, key };
  running = null;
}

/** The zone that times are told in (IANA time zone database). */
export const clockZone = () => clock().zone;
/** The day that the person's weeks begin with, 0 for Sunday. */
export const weekBegins = () => clock().weekBegins;
/** The language of dates and numbers of days, as a tag (RFC 5646). */
export const dateLanguage = () => clock().language;

/** A moment's day on the person's calendar, "2026-11-13". */
export const dayIn = (d: Date) => clock().date().format(d);
const HOUR = 3_600_000;
/** The first moment of a day of the person's calendar, in milliseconds: not always midnight, for clocks may be put forward over it. */
export function dayBegins(day: string): number {
  const midnight = Date.parse(`${day}T00:00Z`);
  // No zone is more than 14 hours before UTC, or 12 after it.
  let [before, within] = [midnight - 15 * HOUR, midnight + 13 * HOUR];
  while (within - before > 1) {
    const middle = Math.floor((before + within) / 2);
    if (dayIn(new Date(middle)) < day) before = middle;
    else within = middle;
  }
  return within;
}
/** When the day of a moment began on the person's calendar, in milliseconds. */
export const dayStart = (iso: string): number => dayBegins(dayIn(new Date(iso)));
/** The number of a moment's day on the person's calendar. */
const dayNumber = (d: Date) => Date.parse(`${dayIn(d)}T00:00:00Z`) / 86_400_000;

/** Today, as a desk calendar has it: "Friday 27 November". */
export const todayWords = (now = new Date()) => clock().told.today().format(now);

/** A time as people say it, by their own clock: "today 08:40", "Fri 13 Nov", and half a year away "13 Nov 2024". */
export function when(iso: string, now = new Date()): string {
  const d = new Date(iso);
  const days = dayNumber(now) - dayNumber(d);
  if (days === 0) return `today ${clock().told.time().format(d)}`;
  if (days === 1) return `yesterday ${clock().told.time().format(d)}`;
  // A weekday and a month would be taken for this year's.
  return Math.abs(days) > 182 ? clock().told.dayOfYear().format(d) : clock().told.day().format(d);
}
/** A day of the calendar, "2026-11-13", in words; it has no zone. */
export const dayWords = (iso: string) =>
  clock()
    .told.calendarDay()
    .format(new Date(`${iso}T12:00Z`));
/** The month of a day of the calendar in words: "November 2026". */
export const monthWords = (iso: string) =>
  clock()
    .told.month()
    .format(new Date(`${iso}T12:00Z`));
/** The weekday of a day of the calendar, short: "Fri". */
export const weekdayWords = (iso: string) =>
  clock()
    .told.weekday()
    .format(new Date(`${iso}T12:00Z`));
export const shortDay = (iso: string) => clock().told.short().format(new Date(iso));
/** A moment's weekday and day: "Fri 13 Nov". */
export const dayOf = (at: string | Date) => clock().told.day().format(new Date(at));
/** A moment in full. */
export const exactly = (iso: string) => clock().told.full().format(new Date(iso));
/** A moment in full, with its zone where the browser's clock shows another time. */
export function exactlyThere(iso: string): string {
  const words = exactly(iso);
  return clock().zone === browsersZone() ? words : `${words}, time of ${placeOf(clock().zone)}`;
}
/** The place that a zone is named after: "Oslo" of Europe/Oslo. */
const placeOf = (zone: string) => zone.slice(zone.lastIndexOf("/") + 1).replaceAll("_", " ");

/** Time left in words, as the server has counted it by one's own calendar. */
export function timeLeft({ days, isToday, isLate }: TimeLeft, due: string): { words: string; late: boolean } {
  if (isLate) {
    if (isToday) return { words: "due today, passed", late: true };
    // Due at a weekend, and no working day since.
    if (days === 0) return { words: `was due ${dayOf(due)}`, late: true };
    return { words: `${-days} ${days === -1 ? "day" : "days"} over`, late: true };
  }
  if (isToday) return { words: "due today", late: false };
  if (days === 0) return { words: `due ${dayOf(due)}`, late: false };
  return { words: `${days} ${days === 1 ? "day" : "days"} left`, late: false };
}

/** A minute of the day as the person's clock shows it: 450 is "07:30", or "7:30 am". */
export function clockOf(minute: number): string {
  const [hour, rest] = [Math.floor(minute / 60), String(minute % 60).padStart(2, "0")];
  // The day's end has no name on a clock of twelve hours.
  if (!clock().isTwelve || minute === 1440) return `${String(hour).padStart(2, "0")}:${rest}`;
  return `${hour % 12 || 12}:${rest} ${hour < 12 ? "am" : "pm"}`;
}
/** The minute of the day that a text names: "7:30", "07.30", "730", "7:30 pm" or "24:00"; null for anything else. */
export function minuteOf(text: string): number | null {
  const found = /^\s*(\d{1,2})(?:\s*[:.h]?\s*(\d{2}))?\s*(?:([ap])\.?\s*m\.?)?\s*$/i.exec(text);
  if (!found) return null;
  const [hour, rest, half] = [Number(found[1]), Number(found[2] ?? 0), found[3]?.toLowerCase()];
  if (half && (hour < 1 || hour > 12)) return null;
  const minute = (half ? (hour % 12) + (half === "p" ? 12 : 0) : hour) * 60 + rest;
  return minute <= 1440 && rest < 60 ? minute : null;
}
