import type { Page, Route } from "@playwright/test";
import { expect, test } from "./house";
import { as } from "./person";

/** What of an answer belongs to opening Froe itself, not to the place. */
const OPENING = /\/api\/(session|live|counts|choices|pins)\b/;
/** Without what Froe cannot be opened. */
const FIRST = /\/api\/(session|live)\b/;

/** Lets what the place itself asks for go another way. */
const instead = (page: Page, way: (route: Route) => Promise<void>, but = OPENING) =>
  page.route("**/api/**", (route) => (but.test(route.request().url()) ? route.continue() : way(route)));

/** Holds what is asked for, and lets it be answered one after the other: what was asked first first, or last first. */
async function oneByOne(page: Page, order: "first" | "last") {
  const held: Route[] = [];
  await instead(page, (route) => Promise.resolve(void held.push(route)), FIRST);
  return async () => {
    for (let route; (route = order === "first" ? held.shift() : held.pop());) {
      const answer = page.waitForResponse((r) => r.request() === route!.request());
      await route.continue();
      await (await answer).finished();
      // What it brings is drawn, and what it leads to is asked, before the next is let go.
      await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))));
    }
  };
}

test("every place says that it waits on a slow line, keeps still when it comes, and says what failed and loads again", async ({
  browser,
  house,
}) => {
  test.setTimeout(420_000);
  const koa = await as(browser, "Koa Whitlock");
  // How far what was there has moved without anybody's doing (Layout Instability, the Cumulative Layout Shift of a page).
  await koa.addInitScript(() => {
    const shifts = ((window as unknown as { shifts: number[] }).shifts = []) as number[];
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & { value: number; hadRecentInput: boolean })[])
        if (!entry.hadRecentInput) shifts.push(entry.value);
    }).observe({ type: "layout-shift", buffered: true });
  });
  const one = (sql: string) => house.rows(sql)[0]!;
  const document = one("SELECT id FROM document WHERE number = 'TO-3301'");
  const plan = one("SELECT id FROM plan WHERE edition > 0 ORDER BY id LIMIT 1");
  const running = one("SELECT id FROM package WHERE title = 'Bearing housing to G7 seals' ORDER BY id LIMIT 1");
  const places: readonly [path: string, there: string | RegExp][] = [
    ["/", /Pier foundation|Nothing waits for you|To answer/],
    ["/register", "Telescope pier"],
    [`/register/${document}`, "Drafts"],
    [`/register/${document}/read`, "TO-3301"],
    ["/notes", /Request|Everything asked for/],
    ["/send", "Routing plan"],
    [`/packages/${running}`, "Bearing housing to G7 seals"],
    ["/plans", "Mount parts"],
    [`/plans/${plan}`, "What would stall it"],
    ["/turnaround", "Pier foundation, survey update"],
    ["/ledger", /registered|signed/],
    ["/post", /waits for your signature|No messages yet/],
    ["/office/people", "Bettany Orr"],
    ["/office/groups", "Lifting"],
    ["/office/calendars", "hours a week"],
    ["/office/folders", "Mount"],
    ["/office/security", "Koa Whitlock"],
  ];
  for (const [at, [path, there]] of places.entries()) {
    // Every other place the other way round; both ways only where there is time.
    const orders = (["first", "last"] as const).filter((_, i) => process.env.FROE_LONG || i === at % 2);
    for (const order of orders)
      await test.step(`${path}, slow, what was asked ${order} answered first`, async () => {
        await koa.goto("about:blank");
        const letGo = await oneByOne(koa, order);
        await koa.goto(path);
        await expect(koa.getByText(/^(Fetching|Opening) (?!Froe).* …$/).first(), path).toBeVisible();
        await expect(async () => {
          await letGo();
          await expect(koa.getByText(there).first(), path).toBeVisible({ timeout: 500 });
          await expect(koa.getByText(/^(Fetching|Opening) .* …$/), path).toHaveCount(0, { timeout: 500 });
        }, path).toPass({ timeout: 60_000 });
        const moved = await koa.evaluate(() => (window as unknown as { shifts: number[] }).shifts);
        expect
          .soft(
            moved.reduce((sum, by) => sum + by, 0),
            `${path} moves while it comes, what was asked ${order} first`,
          )
          .toBeLessThan(0.05);
        await koa.unroute("**/api/**");
      });
    await test.step(`${path}, failing`, async () => {
      await koa.goto("about:blank");
      // A server that could not do it is asked twice more before that is told; once shows that it is.
      const isPatient = path === "/";
      await instead(koa, (route) =>
        isPatient
          ? route.fulfill({ status: 503, body: "" })
          : route.fulfill({ status: 409, json: { code: "not-now", title: "Not just now." } }),
      );
      await koa.goto(path);
      const words = isPatient ? "The server could not do this." : "Not just now.";
      await expect(koa.getByRole("alert").first(), path).toContainText(words);
      await koa.unroute("**/api/**");
      // Once, wherever it is pressed: nothing else on the page stays without.
      await expect(async () => {
        const again = koa.getByRole("button", { name: "Load again" }).first();
        if (await again.isVisible()) await again.click();
        await expect(koa.getByRole("alert")).toHaveCount(0, { timeout: 4000 });
      }, path).toPass({ timeout: 60_000 });
      await expect(koa.getByText(there).first(), path).toBeVisible();
    });
  }
});
