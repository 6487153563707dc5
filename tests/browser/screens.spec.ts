import type { Locator } from "@playwright/test";
import { expect, test } from "./house";
import { as, check, openBench } from "./person";

test("every screen is free of accessibility faults", async ({ browser, page }) => {
  await page.goto("/");
  await expect(page.getByText("choose who to be")).toBeVisible();
  await check(page, "sign-in");
  const odalys = await as(browser, "Odalys Brandvold");
  await expect(odalys.getByText("Said so far")).toBeVisible();
  await check(odalys, "desk");
  await odalys.goto("/register");
  await odalys.getByRole("link", { name: "TO-3301" }).click();
  await expect(odalys.getByRole("heading", { name: "Ledger" })).toBeVisible();
  await check(odalys, "register");
  await odalys.goto("/send");
  await expect(odalys.getByRole("radio").first()).toBeVisible();
  await check(odalys, "send");
  await odalys.goto("/post");
  await expect(odalys.getByRole("heading", { name: "Post" })).toBeVisible();
  await check(odalys, "post");
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  await check(teodor, "bench");
  await teodor.getByRole("button", { name: "Ledger" }).click();
  await expect(teodor.getByRole("dialog")).toContainText("package sent");
  await check(teodor, "ledger");
});

/** Share of a sheet's line picture that carries ink. */
const inkOf = (sheet: Locator) =>
  sheet
    .locator("canvas")
    .first()
    .evaluate((c: HTMLCanvasElement) => {
      const copy = document.createElement("canvas");
      [copy.width, copy.height] = [c.width, c.height];
      const context = copy.getContext("2d")!;
      context.drawImage(c, 0, 0);
      const data = context.getImageData(0, 0, c.width, c.height).data;
      let count = 0;
      for (let i = 3; i < data.length; i += 4) if (data[i]! > 40) count++;
      return count / (data.length / 4);
    });

test("the sheet is panned, zoomed and its layers switched from the keyboard and the page", async ({ browser }) => {
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  const sheet = teodor.getByRole("application");
  const scale = async () => Number(await sheet.getAttribute("data-scale"));
  const whole = await scale();
  await sheet.focus();
  for (let i = 0; i < 6; i++) await teodor.keyboard.press("+");
  await expect.poll(scale).toBeGreaterThan(whole * 3);
  await expect(teodor.locator("[data-sharp=true]")).toBeVisible();
  await sheet.press("0");
  await expect.poll(scale).toBeCloseTo(whole, 6);
  await expect(teodor.locator("[data-sharp=true]")).toBeVisible();
  const all = await inkOf(sheet);
  expect(all).toBeGreaterThan(0.01);
  await teodor.getByRole("button", { name: "Layers" }).click();
  await teodor.getByRole("button", { name: "All off" }).click();
  await expect.poll(() => inkOf(sheet)).toBe(0);
  await teodor.getByLabel("OUTLINE").check();
  await expect.poll(() => inkOf(sheet)).toBeGreaterThan(0.002);
  expect(await inkOf(sheet)).toBeLessThan(all);
});

test("all sheets are drawn with the same graphics, and go on when the machine has taken them back", async ({
  browser,
}) => {
  const teodor = await as(browser, "Teodor Quill");
  await teodor.addInitScript(() => {
    const made = ((window as unknown as { made: WebGL2RenderingContext[] }).made = []) as RenderingContext[];
    for (const kind of [OffscreenCanvas, HTMLCanvasElement]) {
      const context = kind.prototype.getContext as (...given: unknown[]) => RenderingContext | null;
      kind.prototype.getContext = function (this: unknown, ...given: unknown[]) {
        const got = context.apply(this, given);
        if (given[0] === "webgl2" && got && !made.includes(got)) made.push(got);
        return got;
      } as never;
    }
  });
  const made = () => teodor.evaluate(() => (window as unknown as { made: unknown[] }).made.length);
  await openBench(teodor, "Bearing housing to G7 seals");
  const both = teodor.getByRole("application");
  await teodor.keyboard.press("b");
  await expect(teodor.locator("[data-sharp=true]")).toHaveCount(2);
  await teodor.keyboard.press("b");
  const sheet = both.first();
  for (const item of await teodor.getByRole("button", { name: /^TO-\d+ / }).all()) {
    await item.click();
    await expect(teodor.locator("[data-sharp=true]")).toHaveCount(1);
    await expect.poll(() => inkOf(sheet)).toBeGreaterThan(0.002);
  }
  expect(await made()).toBe(1);
  await teodor.evaluate(() =>
    (window as unknown as { made: WebGL2RenderingContext[] }).made[0]!.getExtension(
      "WEBGL_lose_context",
    )!.loseContext(),
  );
  // What was drawn stays; what is looked at next is drawn as before.
  expect(await inkOf(sheet)).toBeGreaterThan(0.002);
  const scale = Number(await sheet.getAttribute("data-scale"));
  await sheet.focus();
  await teodor.keyboard.press("+");
  await expect.poll(async () => Number(await sheet.getAttribute("data-scale"))).toBeGreaterThan(scale);
  await expect(teodor.locator("[data-sharp=true]")).toHaveCount(1);
  await expect.poll(made).toBe(2);
  await expect.poll(() => inkOf(sheet)).toBeGreaterThan(0.002);
});

test("a broken file is told with its line and leaves nothing behind; a foreign one by its kind", async ({
  browser,
}) => {
  const odalys = await as(browser, "Odalys Brandvold");
  await odalys.goto("/register");
  await odalys.getByRole("button", { name: "Register a document" }).click();
  const file = odalys.getByLabel("Drawing file");
  await file.setInputFiles({
    name: "cut.dxf",
    mimeType: "image/vnd.dxf",
    buffer: Buffer.from("0\nSECTION\n2\nENTITIES\n0\nLINE\n10\nabc\n"),
  });
  await expect(odalys.getByRole("alert")).toContainText("Line 8: A number was expected here");
  await expect(odalys.getByRole("button", { name: "Register the document" })).toBeDisabled();
  await file.setInputFiles({ name: "letter.docx", mimeType: "application/octet-stream", buffer: Buffer.from("PK") });
  await expect(odalys.getByText("Froe cannot show files of this kind")).toBeVisible();
  await expect(odalys.getByRole("dialog").getByLabel("Kind")).toHaveValue("supporting file");
});

test("answers may come in any order or not at all: no page goes blank and nothing typed is lost", async ({
  browser,
}) => {
  const odalys = await as(browser, "Odalys Brandvold");
  // The plans themselves come long after which of them fit.
  await odalys.route("**/api/plans", async (route) => {
    await new Promise((later) => setTimeout(later, 2500));
    await route.continue();
  });
  await odalys.goto("/send");
  await expect(odalys.getByRole("radio", { name: /^Mount parts/ })).toBeVisible();
  await expect(odalys.getByRole("radio", { name: /^Mount parts.*working days/ })).toBeVisible();
  await odalys.getByLabel("Title").fill("Typed before it failed");
  await odalys.route("**/api/plans/fitting", (route) => route.fulfill({ status: 503, body: "" }));
  await odalys.getByRole("checkbox").first().check();
  const said = odalys.getByRole("alert");
  await expect(said).toContainText("The server could not do this.");
  await odalys.unroute("**/api/plans/fitting");
  await said.getByRole("button", { name: "Load again" }).click();
  await expect(odalys.getByRole("radio", { name: /^Mount parts/ })).toBeVisible();
  await expect(said).toBeHidden();
  await expect(odalys.getByLabel("Title")).toHaveValue("Typed before it failed");

  // A package that cannot be fetched anew stays on the bench as it was, with what was judged on it.
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  await teodor.getByRole("radio", { name: /^Approve / }).click();
  await teodor.route(/api\/packages\/[^/]+$/, (route) => route.fulfill({ status: 503, body: "" }));
  // Coming back to the window asks anew for what is older than some seconds.
  await expect(async () => {
    await teodor.evaluate(() => window.dispatchEvent(new Event("visibilitychange")));
    await expect(teodor.getByRole("alert")).toContainText("What you see here may have changed since.", {
      timeout: 1000,
    });
  }).toPass({ timeout: 60_000 });
  await expect(teodor.getByRole("radio", { name: /^Approve / })).toBeChecked();
});

/** Words whose nearest ground is a pattern. */
const wordsOnPatterns = () =>
  [...document.querySelectorAll<HTMLElement>("body *")].flatMap((e) => {
    const own = [...e.childNodes].some((n) => n.nodeType === Node.TEXT_NODE && n.textContent!.trim() !== "");
    if (!own || e.getClientRects().length === 0) return [];
    for (let at: HTMLElement | null = e; at; at = at.parentElement) {
      const { backgroundImage, backgroundColor } = getComputedStyle(at);
      if (backgroundImage !== "none") return [e.textContent!.trim()];
      if (!/rgba\(.*, 0\)$/.test(backgroundColor)) return [];
    }
    return [];
  });

test("where the system takes the colours away, words stand on no pattern and what is current has a line round it", async ({
  browser,
}) => {
  const koa = await as(browser, "Koa Whitlock");
  await koa.emulateMedia({ forcedColors: "active" });
  const places = koa.getByRole("navigation", { name: "Places" });
  for (const [place, there] of [
    ["Desk", koa.getByRole("button", { name: "Open the bench" })],
    ["Register", koa.getByRole("link", { name: "Declination bearing housing" })],
    ["Plans", koa.getByRole("button", { name: "New plan" })],
    ["Turnaround", koa.getByRole("link", { name: "Pier foundation, survey update" })],
  ] as const) {
    await places.getByRole("link", { name: new RegExp(`^${place}`) }).click();
    await expect(there.first()).toBeVisible();
    expect.soft(await koa.evaluate(wordsOnPatterns), place).toEqual([]);
    await expect.soft(places.locator("[aria-current=page]")).toHaveCSS("outline-style", "solid", { timeout: 5000 });
  }
  await places.getByRole("link", { name: "Plans" }).click();
  await koa.getByRole("link", { name: "Mount parts" }).first().click();
  await expect(koa.locator("[data-cell].hatched").first()).toHaveCSS("background-image", /repeating-linear-gradient/);
  expect.soft(await koa.evaluate(wordsOnPatterns), "plan editor").toEqual([]);
  const teodor = await as(browser, "Teodor Quill");
  await teodor.emulateMedia({ forcedColors: "active" });
  await openBench(teodor, "Bearing housing to G7 seals");
  expect.soft(await teodor.evaluate(wordsOnPatterns), "bench").toEqual([]);
});

test("what stands in a cell of the strip stays in it", async ({ browser }) => {
  const sunniva = await as(browser, "Sunniva Pall");
  // A signature, how many of how many, and how late it is, in a narrow cell.
  await openBench(sunniva, "Pier foundation, survey update");
  const cells = sunniva.getByRole("note");
  expect(await cells.count()).toBeGreaterThan(4);
  const reaching = await cells.evaluateAll((all) =>
    all.filter((cell) => cell.scrollWidth > cell.clientWidth).map((cell) => cell.textContent),
  );
  expect(reaching).toEqual([]);
});

test("a page that fails leaves the others, and opens again when what it failed over is mended", async ({ browser }) => {
  const koa = await as(browser, "Koa Whitlock");
  const places = koa.getByRole("navigation", { name: "Places" });
  // An answer that is not what it should be: the list is a table here.
  await koa.route("**/api/plans", (route) => route.fulfill({ json: { not: "a list" } }));
  await places.getByRole("link", { name: "Plans" }).click();
  await expect(koa.getByText("This page has failed")).toBeVisible();
  await places.getByRole("link", { name: "Register" }).click();
  await expect(koa.getByRole("heading", { name: "Register" })).toBeVisible();
  await koa.unroute("**/api/plans");
  await places.getByRole("link", { name: "Plans" }).click();
  await expect(async () => {
    const again = koa.getByRole("button", { name: "Open the page again" });
    if (await again.isVisible()) await again.click();
    await expect(koa.getByRole("link", { name: /Mount parts/ }).first()).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 60_000 });
});

test("a wrong password signs nobody in, the right one does, and signing out ends the session", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("Name to sign in with").fill("teodor");
  await page.getByLabel("Password").fill("wrong");
  await page.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(page.getByRole("alert")).toContainText("do not go together");
  // Who is to be chosen from the demo's people needs no more than one press.
  await page.getByRole("button", { name: /Koa Whitlock/ }).click();
  await page.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Desk" })).toBeVisible();
  await page.getByRole("button", { name: /your account/ }).click();
  await page.getByRole("menuitem", { name: "Sign out" }).click();
  await expect(page.getByLabel("Password")).toBeVisible();
  expect((await page.request.get("/api/desk")).status()).toBe(401);
});
