import assert from "node:assert/strict";
import { afterEach, describe, test } from "node:test";
import { dayAfter, dayFigures, dayFrom, monthAfter, orderOf, weeksOf } from "../../web/src/ui/days";
import {
  clockOf,
  dayStart,
  dayWords,
  exactly,
  exactlyThere,
  dayBegins,
  keepClock,
  minuteOf,
  weekBegins,
  when,
} from "../../web/src/ui/time";

describe("days of the calendar", () => {
  test("days and months are counted as the calendar has them", () => {
    assert.equal(dayAfter("2026-12-31", 1), "2027-01-01");
    assert.equal(dayAfter("2028-03-01", -1), "2028-02-29");
    assert.equal(monthAfter("2026-01-31", 1), "2026-02-28");
    assert.equal(monthAfter("2026-01-15", -1), "2025-12-15");
    assert.equal(monthAfter("2024-02-29", 12), "2025-02-28");
    // The day that clocks go forward in much of the world is as long as any other here.
    assert.equal(dayAfter("2026-03-28", 2), "2026-03-30");
  });

  test("a month's weeks hold all of its days, once each, and begin where they should", () => {
    for (const begins of [0, 1, 6])
      for (let m = 0; m < 60; m++) {
        const day = monthAfter("2024-01-17", m);
        const weeks = weeksOf(day, begins);
        const all = weeks.flat();
        assert.ok(weeks.every((w) => w.length === 7 && new Date(`${w[0]}T00:00:00Z`).getUTCDay() === begins));
        for (let i = 1; i < all.length; i++) assert.equal(all[i], dayAfter(all[i - 1]!, 1));
        const own = all.filter((d) => d.slice(0, 7) === day.slice(0, 7));
        assert.equal(own[0], `${day.slice(0, 7)}-01`);
        assert.equal(dayAfter(own.at(-1)!, 1), `${monthAfter(own[0]!, 1)}`);
        // Every week has a day of the month.
        assert.ok(weeks.every((w) => w.some((d) => d.slice(0, 7) === day.slice(0, 7))));
      }
  });

  test("a day is read as people write it, in the order of their language", () => {
    for (const [text, language, day] of [
      ["2026-11-13", "en-US", "2026-11-13"],
      ["2026/1/3", "de", "2026-01-03"],
      ["13/11/2026", "en-GB", "2026-11-13"],
      ["11/13/2026", "en-US", "2026-11-13"],
      ["03/04/2026", "en-GB", "2026-04-03"],
      ["03/04/2026", "en-US", "2026-03-04"],
      ["3.4.26", "de", "2026-04-03"],
      ["13 Nov 2026", "en-GB", "2026-11-13"],
      ["13. November 2026", "de", "2026-11-13"],
      ["Nov 13, 2026", "en-GB", "2026-11-13"],
      ["13 mars 2026", "fr", "2026-03-13"],
      ["31/02/2026", "en-GB", null],
      ["13/13/2026", "en-GB", null],
      ["13/11", "en-GB", null],
      ["13/11/6", "en-GB", null],
      ["tomorrow", "en-GB", null],
      ["1 2 3 4", "en-GB", null],
      ["13 xyz 2026", "en-GB", null],
    ] as const)
      assert.deepEqual([text, language, dayFrom(text, language)], [text, language, day]);
  });

  test("what is written in figures is read back as the same day, in every language", () => {
    for (const language of [
      "en-GB",
      "en-US",
      "de",
      "sv",
      "hu",
      "ja",
      "ko",
      "fr-CA",
      "nl",
      "pl",
      "lt",
      "fa",
      "ar-EG",
      "bg",
    ])
      for (let i = 0; i < 40; i++) {
        const day = dayAfter("2025-01-05", i * 29);
        assert.deepEqual([language, dayFrom(dayFigures(day, language), language)], [language, day]);
      }
    assert.deepEqual(orderOf("ja"), ["year", "month", "day"]);
  });
});

describe("a clock of one's own", () => {
  const usual = { language: "", hours: "byLanguage", weekBegins: "byLanguage" } as const;
  afterEach(() => keepClock("UTC", usual));

  test("times are told in the person's zone, language and hours", () => {
    const at = "2026-11-13T21:05:00Z";
    for (const [zone, manner, words] of [
      ["UTC", usual, "13 Nov 2026, 21:05"],
      ["Asia/Tokyo", usual, "14 Nov 2026, 06:05"],
      ["UTC", { ...usual, language: "de" }, "13. Nov. 2026, 21:05"],
      ["UTC", { ...usual, language: "en-US" }, "Nov 13, 2026, 09:05 PM"],
      ["UTC", { ...usual, language: "en-US", hours: "twentyFour" }, "Nov 13, 2026, 21:05"],
      ["UTC", { ...usual, hours: "twelve" }, "13 Nov 2026, 09:05 pm"],
      // A language or a zone that this browser does not know leaves the rest as it is.
      ["UTC", { ...usual, language: "no_tag", hours: "twentyFour" }, "13 Nov 2026, 21:05"],
    ] as const) {
      keepClock(zone, manner);
      assert.equal(
        exactly(at)
          .replace(/, time of .*/, "")
          .replaceAll("\u202f", " "),
        words,
      );
    }
    keepClock("Asia/Tokyo", usual);
    if (Intl.DateTimeFormat().resolvedOptions().timeZone !== "Asia/Tokyo")
      assert.match(exactlyThere(at), /time of Tokyo$/);
    assert.equal(when("2026-11-13T21:05:00Z", new Date("2026-11-14T01:00:00Z")), "today 06:05");
    assert.equal(dayStart("2026-11-13T21:05:00Z"), Date.parse("2026-11-13T15:00:00Z"));
    // A day has no zone.
    assert.equal(dayWords("2026-11-13"), "13 Nov 2026");
  });

  test("a day begins where its people are, also when clocks are changed on it", () => {
    for (const [zone, day, begins] of [
      ["UTC", "2026-11-13", "2026-11-13T00:00:00.000Z"],
      ["Europe/Oslo", "2026-01-01", "2025-12-31T23:00:00.000Z"],
      ["Europe/Oslo", "2026-03-29", "2026-03-28T23:00:00.000Z"],
      ["Europe/Oslo", "2026-03-30", "2026-03-29T22:00:00.000Z"],
      ["Europe/Oslo", "2026-10-25", "2026-10-24T22:00:00.000Z"],
      ["Europe/Oslo", "2026-10-26", "2026-10-25T23:00:00.000Z"],
      ["Pacific/Kiritimati", "2026-01-01", "2025-12-31T10:00:00.000Z"],
      ["Pacific/Pago_Pago", "2026-01-01", "2026-01-01T11:00:00.000Z"],
      // Clocks were put forward over midnight; a day was left out.
      ["America/Sao_Paulo", "2018-11-04", "2018-11-04T03:00:00.000Z"],
      ["Pacific/Apia", "2011-12-30", "2011-12-30T10:00:00.000Z"],
    ] as const) {
      keepClock(zone, usual);
      assert.equal(new Date(dayBegins(day)).toISOString(), begins, `${zone} ${day}`);
    }
    keepClock("Europe/Oslo", usual);
    assert.equal(new Date(dayStart("2026-03-29T18:00:00Z")).toISOString(), "2026-03-28T23:00:00.000Z");
  });

  test("weeks begin by the language, or as one chooses", () => {
    for (const [manner, day] of [
      [{ ...usual, language: "de" }, 1],
      [{ ...usual, language: "de", weekBegins: "sunday" }, 0],
      [{ ...usual, weekBegins: "saturday" }, 6],
      [{ ...usual, language: "en-US", weekBegins: "monday" }, 1],
    ] as const) {
      keepClock("UTC", manner);
      assert.equal(weekBegins(), day);
    }
  });

  test("hours of a day are written and read on a clock of twelve as on one of twenty-four", () => {
    keepClock("UTC", { ...usual, hours: "twelve" });
    for (const [minute, words] of [
      [0, "12:00 am"],
      [450, "7:30 am"],
      [720, "12:00 pm"],
      [990, "4:30 pm"],
      [1440, "24:00"],
    ] as const)
      assert.deepEqual([clockOf(minute), minuteOf(words)], [words, minute]);
    for (let m = 0; m <= 1440; m += 7) assert.equal(minuteOf(clockOf(m)), m);
    assert.equal(minuteOf("13:00 pm"), null);
    assert.equal(minuteOf("0:30 am"), null);
    assert.equal(minuteOf("4.30 p.m."), 990);
  });
});
