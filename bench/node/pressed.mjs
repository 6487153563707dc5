// What a page does for a press: its own tasks, from the press until the frame that answers it is handed over.

/** What of a task is the page's work: script, style, layout and painting are all tasks of its main thread. */
const TASK = "RunTask";

/**
 * Presses, and measures what the page's main thread worked until its next frame; what it waited for is no work.
 * @param {import("@playwright/test").Page} page where it is pressed
 * @param {import("@playwright/test").CDPSession} devtools of that page
 * @param {() => Promise<void>} act the press
 * @returns {Promise<{ own: number, shown: number }>} milliseconds of work, and those that passed until the frame
 */
export async function pressed(page, devtools, act) {
  const events = [];
  const gather = (e) => events.push(...e.value);
  devtools.on("Tracing.dataCollected", gather);
  await devtools.send("Tracing.start", {
    transferMode: "ReportEvents",
    traceConfig: { includedCategories: ["devtools.timeline", "disabled-by-default-devtools.timeline"] },
  });
  await act();
  await page.waitForTimeout(900);
  const all = new Promise((done) => devtools.once("Tracing.tracingComplete", done));
  await devtools.send("Tracing.end");
  await all;
  devtools.off("Tracing.dataCollected", gather);
  return workOf(events);
}

/** The work between a press and the frame after it, from a trace. */
export function workOf(events) {
  const press = events.find((e) => e.name === "EventDispatch" && ["keydown", "click"].includes(e.args?.data?.type));
  if (!press) throw new Error("The trace holds no press.");
  const mine = events.filter((e) => e.ph === "X" && e.pid === press.pid && e.tid === press.tid);
  const frame = mine.filter((e) => e.name === "Commit" && e.ts >= press.ts).sort((a, b) => a.ts - b.ts)[0];
  const until = frame ? frame.ts + frame.dur : Math.max(...mine.map((e) => e.ts + (e.dur ?? 0)));
  const own = mine
    .filter((e) => e.name === TASK)
    .reduce((sum, e) => sum + Math.max(0, Math.min(e.ts + e.dur, until) - Math.max(e.ts, press.ts)), 0);
  return { own: own / 1000, shown: (until - press.ts) / 1000 };
}
