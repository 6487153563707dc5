import type { Page } from "@playwright/test";
import { expect, test } from "./house";
import { as, check, openBench } from "./person";
import { ink } from "./sheet";

test("a package of a PDF, a scan and a photograph is looked through, searched, answered and marked", async ({
  browser,
}) => {
  test.setTimeout(240_000);
  const teodor = await as(browser, "Teodor Quill");
  const sharp = () => expect(teodor.locator("[data-sharp=true]")).toBeVisible();
  await openBench(teodor, "Pier survey before the refit");
  await check(teodor, "a page on the bench");
  const all = await ink(teodor);
  expect(all.dark).toBeGreaterThan(2000);
  expect(all.coloured).toBeGreaterThan(100);

  // What came with the file can be taken away, and its layers switched.
  await teodor.getByRole("button", { name: /^Overlays/ }).click();
  await teodor.getByLabel(/From the file/).uncheck();
  await teodor.keyboard.press("Escape");
  await expect.poll(async () => (await ink(teodor)).coloured).toBeLessThan(all.coloured * 0.8);
  await teodor.getByRole("button", { name: "Layers" }).click();
  await teodor.getByRole("checkbox", { name: "CRACKS" }).uncheck();
  await teodor.getByRole("checkbox", { name: "SURVEY" }).uncheck();
  await teodor.keyboard.press("Escape");
  await expect.poll(async () => (await ink(teodor)).coloured).toBeLessThan(all.coloured * 0.1);

  // Zooming in draws the same lines anew, sharper and so with more points.
  const sheet = teodor.getByRole("application");
  await sheet.focus();
  for (let i = 0; i < 5; i++) await teodor.keyboard.press("+");
  await sharp();
  await sheet.press("0");

  // The second sheet, by its small picture and by key; each is left where it was.
  await teodor.getByRole("tab", { name: "Sheet 2" }).click();
  await expect(teodor.getByRole("application", { name: /Sheet 2/ })).toBeVisible();
  await teodor.keyboard.press("PageUp");
  await expect(teodor.getByRole("application", { name: /Sheet 1/ })).toBeVisible();

  // Words in the package, with the places marked.
  await teodor.keyboard.press("/");
  await teodor.getByLabel("Words to find").fill("C 4");
  await teodor.getByRole("radio", { name: "The package" }).check();
  await expect(teodor.getByText("4 places")).toBeVisible();
  await check(teodor, "finding");
  await teodor.getByLabel("Words to find").press("Enter");
  await expect(teodor.getByTestId("found").locator("polygon")).toHaveCount(1);
  await teodor.getByLabel("Words to find").press("Enter");
  await expect(teodor.getByRole("application", { name: /Sheet 2/ })).toBeVisible();
  await expect(teodor.getByText("2 of 4 places")).toBeVisible();
  await teodor.getByLabel("Words to find").press("Escape");
  await expect(teodor.getByLabel("Words to find")).toBeHidden();

  // A mark of the file is answered by a note at its place.
  await teodor.keyboard.press("PageUp");
  const marks = teodor.getByRole("region", { name: "Marks from the file" });
  await expect(marks).toContainText("Crack 4 is wider than in the spring");
  await expect(marks).toContainText("Accepted by Ylva Torsrud");
  await marks.getByRole("button", { name: "Answer with a note" }).click();
  await teodor.getByLabel("Words of the note").fill("Inject before the mount goes up.");
  await teodor.getByRole("button", { name: /^Add (remark|question|request)/ }).click();
  await expect(teodor.getByRole("region", { name: "Notes on this draft" })).toContainText("Inject before the mount");

  // The scan and the photograph.
  const items = teodor.getByRole("navigation", { name: "Items of the package" }).getByRole("button");
  await items.nth(2).click();
  await sharp();
  const scan = await ink(teodor);
  expect(scan.dark).toBeGreaterThan(2000);
  expect(scan.coloured).toBeLessThan(scan.dark / 50);
  await items.nth(3).click();
  await sharp();
  await expect(teodor.getByText("Size on paper unknown")).toBeVisible();
  await check(teodor, "a photograph on the bench");
});

test("words on sheets are found from the register, and the link leads to them", async ({ browser }) => {
  const koa = await as(browser, "Koa Whitlock");
  await koa.goto("/register");
  await koa.getByRole("button", { name: "Find on sheets" }).click();
  await koa.getByLabel("Words on the sheets").fill("crack gauge");
  const found = koa.getByRole("dialog").getByRole("link", { name: /TO-1106/ });
  await expect(found).toBeVisible();
  await check(koa, "found in the register");
  await found.click();
  await expect(koa.getByLabel("Words to find")).toHaveValue("crack gauge");
  await expect(koa.getByTestId("found").locator("polygon")).toHaveCount(1);
});

test("cells of a table are picked by key, noted and found; a drawing lies beside it, and the address says so", async ({
  browser,
}) => {
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Pier survey before the refit");
  const items = teodor.getByRole("navigation", { name: "Items of the package" }).getByRole("button");
  await items.nth(1).click();
  const table = teodor.getByTestId("table");
  await expect(table).toContainText("Anchor rod M24 × 600");
  await check(teodor, "a table on the bench");

  // Whole rows by their numbers; cells by arrows, with Shift a range.
  await table.click({ position: { x: 20, y: 150 } });
  await expect(teodor.getByRole("status").filter({ hasText: "row 5" })).toBeVisible();
  await table.press("Control+Home");
  for (const key of ["ArrowDown", "ArrowDown", "ArrowDown", "ArrowDown", "ArrowRight"]) await table.press(key);
  await table.press("Shift+ArrowDown");
  await expect(teodor.getByRole("status").filter({ hasText: "B5:B6" })).toBeVisible();
  await table.press("Enter");
  await teodor.getByLabel("Words of the note").fill("These two are in stock.");
  await teodor.getByRole("radio", { name: "Remark" }).click();
  await teodor.getByRole("button", { name: "Add remark" }).click();
  await expect(teodor.getByRole("region", { name: "Notes on this draft" })).toContainText("B5:B6");
  await expect(table.getByRole("button", { name: /These two are in stock/ })).toBeVisible();

  await teodor.keyboard.press("/");
  await teodor.getByLabel("Words to find").fill("m24");
  await expect(teodor.getByText("2 places")).toBeVisible();
  await expect(teodor.getByTestId("found-cell")).toHaveCount(2);
  await teodor.getByLabel("Words to find").press("Escape");

  // The drawing beside the table, and its second sheet; the same after a reload.
  await table.press("b");
  const beside = teodor.getByRole("region", { name: "Beside" });
  await beside.getByLabel("Document beside").selectOption({ label: "TO-1106 A.1 Pier, survey of cracks and levels" });
  await beside.getByLabel("Sheet beside").selectOption("Sheet 2");
  await expect(beside.locator("[data-sharp=true]")).toBeVisible();
  await check(teodor, "two panes");
  // Two tables move together, by rows and zoom.
  await beside.getByLabel("Document beside").selectOption({ label: "TO-1107 A.1 Pier refit, parts and materials" });
  await beside.getByRole("button", { name: "Move both together" }).click();
  const tables = teodor.getByTestId("table");
  await expect(tables).toHaveCount(2);
  await tables.first().focus();
  for (let i = 0; i < 3; i++) await tables.first().press("+");
  await tables.first().evaluate((t) => t.scrollTo(0, 60));
  await expect.poll(() => tables.evaluateAll((all) => all.map((t) => t.scrollTop))).toEqual([60, 60]);
  await beside.getByLabel("Document beside").selectOption({ label: "TO-1106 A.1 Pier, survey of cracks and levels" });
  await beside.getByLabel("Sheet beside").selectOption("Sheet 2");
  await expect(beside.locator("[data-sharp=true]")).toBeVisible();
  await teodor.reload();
  await expect(teodor.getByTestId("table")).toContainText("Levelling nut M24");
  await expect(beside.getByRole("application", { name: /Sheet 2/ })).toBeVisible();
  await beside.getByRole("button", { name: "Close this pane" }).click();
  await expect(beside).toBeHidden();

  // From numbers to the documents that have them: in the package, and outside of it.
  await teodor.getByRole("button", { name: "Open TO-1105 beside" }).click();
  await expect(beside.getByLabel("Document beside").locator("option:checked")).toContainText("not in this package");
  await expect(beside.locator("[data-sharp=true]")).toBeVisible();
  await items.nth(0).click();
  await beside.getByRole("button", { name: "Close this pane" }).click();
  await teodor.getByRole("button", { name: "Open TO-1107 beside" }).click();
  await expect(beside.getByTestId("table")).toContainText("Levelling nut M24");
  await check(teodor, "numbers that are links");
});

test("two drafts of a sheet move together", async ({ browser }) => {
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  await teodor.keyboard.press("b");
  const both = teodor.getByRole("application");
  await expect(both).toHaveCount(2);
  await expect(teodor.getByLabel("Document beside")).toContainText("TO-3301 A.1, round 1");
  await teodor.getByRole("button", { name: "Move both together" }).click();
  await both.first().focus();
  for (const key of ["+", "+", "ArrowRight", "ArrowUp"]) await teodor.keyboard.press(key);
  const views = () =>
    both.evaluateAll((all) => all.map((a) => (a as HTMLElement).dataset.view!.split(",").map(Number)));
  await expect
    .poll(async () => {
      const [a, b] = await views();
      return Math.hypot(a![0]! - b![0]!, a![1]! - b![1]!) < 1e-6 && Math.abs(a![0]!) > 1;
    })
    .toBe(true);
  // Where the hand is stands below, with its zone.
  const box = (await both.first().boundingBox())!;
  await teodor.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await expect(teodor.getByTestId("pointer").first()).toContainText(/x [-\d.]+ {2}y [-\d.]+mm[A-H]\d+/);
});

test("several files are registered together once each of them can be", async ({ browser }) => {
  const odalys = await as(browser, "Odalys Brandvold");
  await odalys.goto("/register");
  await odalys.getByRole("button", { name: "Register a document" }).click();
  const words = (name: string, text: string) => ({ name, mimeType: "text/plain", buffer: Buffer.from(text) });
  await odalys
    .getByLabel("Drawing file")
    .setInputFiles([
      words("TO-7001_A1 Rail heater.txt", "Heater of the rail, 60 W a metre"),
      words("list.csv", "item,count\nheater,12\nclip,48\n"),
      words("broken.dxf", "nothing of the kind"),
    ]);
  const rows = odalys.getByTestId("arriving");
  await expect(rows).toHaveCount(3);
  await expect(rows.nth(0)).toContainText("1 sheet");
  await expect(rows.nth(1)).toContainText("1 table");
  await expect(rows.nth(2)).toContainText("does not look like a DXF file");
  await check(odalys, "files arriving");
  const all = odalys.getByRole("button", { name: /^Register all/ });
  await expect(all).toBeDisabled();
  // One leads to those that cannot be registered as they are.
  await expect(odalys.getByRole("status").filter({ hasText: "3 files" })).toContainText("need");
  await odalys.getByRole("button", { name: /^Show (it|the first)/ }).click();
  await expect(odalys.locator("[data-stuck] :focus").first()).toBeVisible();
  await odalys.getByRole("button", { name: "Leave out broken.dxf" }).click();
  await expect(odalys.getByLabel("Number of TO-7001_A1 Rail heater.txt")).toHaveValue("TO-7001");
  await odalys.getByLabel("Number of list.csv").fill("TO-1107");
  await odalys.getByLabel("Discipline of all new ones").fill("Electrical");
  await all.click();
  await expect(rows.nth(1)).toContainText("TO-1107 is registered already");
  await odalys.getByLabel("Number of list.csv").fill("TO-7002");
  await all.click();
  await expect(rows).toHaveCount(0);
  await expect(odalys.getByRole("link", { name: "Rail heater" })).toBeVisible();
  await expect(odalys.getByRole("link", { name: "TO-7002" })).toBeVisible();
});

test("a sheet's scale is taken from its words, or from two points and a length, and others see by whom", async ({
  browser,
}) => {
  test.setTimeout(600_000);
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Pier survey before the refit");
  const pill = teodor.getByRole("button", { name: "Scale", exact: false }).filter({ hasNotText: "Set" });
  await expect(pill).toHaveText("Scale not known");
  await pill.click();
  await expect(teodor.getByRole("dialog", { name: "Scale" })).toContainText("1 : 50");
  await check(teodor, "asking for the scale");
  await teodor.getByRole("button", { name: "Use it" }).click();
  await expect(pill).toHaveText("Scale 1:50");
  await expect(teodor.getByRole("dialog", { name: "Scale" })).toContainText("given by Teodor Quill");
  await teodor.keyboard.press("Escape");

  // Somebody who has the same sheet open sees it, and sets another by two points.
  await teodor.getByRole("navigation", { name: "Items of the package" }).getByRole("button").nth(3).click();
  await expect(teodor.getByRole("application")).toBeVisible();
  const size = teodor.getByRole("button", { name: /^\s*(Size|1 unit|Scale)/ });
  await size.click();
  await teodor.getByRole("button", { name: "Set it by two points …" }).click();
  await expect(teodor.getByText("Draw from one point to another")).toBeVisible();
  const box = (await teodor.getByRole("application").boundingBox())!;
  await teodor.mouse.move(box.x + box.width * 0.35, box.y + box.height * 0.4);
  await teodor.mouse.down();
  await teodor.mouse.move(box.x + box.width * 0.6, box.y + box.height * 0.4, { steps: 4 });
  await expect(teodor.getByTestId("scale-line")).toBeVisible();
  await teodor.mouse.up();
  const length = teodor.getByLabel("These two points are apart");
  await length.fill("much");
  await expect(teodor.getByText("Write a number")).toBeVisible();
  await length.fill("62,5");
  await teodor.getByLabel("Counted in").selectOption("cm");
  await length.press("Enter");
  await expect(teodor.getByTestId("scale-line")).toBeHidden();
  await expect(size).toHaveText(/^\s*(Scale \d|1 unit = )/);
  await size.click();
  await expect(teodor.getByRole("dialog", { name: "Scale" })).toContainText("By two points 62.5 cm apart");
  await teodor.getByRole("button", { name: "Take back" }).click();
  await expect(teodor.getByRole("dialog", { name: "Scale" })).toContainText("The file does not say");
});

test("while a sheet is fetched its picture lies where the sheet will", async ({ browser }) => {
  const page = await as(browser, "Teodor Quill");
  let go = () => {};
  const held = new Promise<void>((resolve) => (go = resolve));
  await page.route(/leaves\/0\/geometry/, async (route) => {
    await held;
    await route.continue();
  });
  await page.getByRole("button", { name: /Bearing housing to G7 seals/ }).dblclick();
  const picture = page.locator("main .on-paper img").first();
  const lies = async () => {
    const box = (await picture.boundingBox())!;
    return [box.x, box.y, box.width, box.height].map(Math.round);
  };
  await expect(page.getByText("Fetching the sheet …")).toBeVisible();
  await expect.poll(() => picture.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBeGreaterThan(0);
  const before = await lies();
  expect(before[2]).toBeGreaterThan(300);
  // It is a sheet to be looked at already, and judged.
  await page.keyboard.press("1");
  await expect(page.getByRole("radio", { name: /^Approve/ })).toBeChecked();
  go();
  await expect(page.locator("[data-sharp=true]")).toBeVisible();
  await expect(page.getByText("Fetching the sheet …")).toBeHidden();
  expect(await lies()).toEqual(before);
});

test("the file of a page is asked for before the page is known, and however long it takes it is waited for", async ({
  browser,
}) => {
  const page = await as(browser, "Teodor Quill");
  await page.clock.install();
  await page.goto("/");
  const held = async (address: RegExp) => {
    let go = () => {};
    const until = new Promise<void>((resolve) => (go = resolve));
    await page.route(address, async (route) => {
      await until;
      await route.continue();
    });
    return go;
  };
  const letFile = await held(/drafts\/[^/]+\/file$/);
  const letFacts = await held(/leaves\/0\/page$/);
  const asked = page.waitForRequest(/drafts\/[^/]+\/file$/);
  await page.getByRole("button", { name: /Pier survey before the refit/ }).dblclick();
  await asked;
  letFacts();
  await expect(page.locator("[data-sharp=false]")).toBeVisible();
  // Longer than a page may be drawn: what is fetched meanwhile is not drawing.
  await page.clock.fastForward(60_000);
  await expect(page.getByText("too heavy to be drawn sharply")).toHaveCount(0);
  letFile();
  await expect(page.locator("[data-sharp=true]")).toBeVisible();
});

test("what was seen of a sheet grows with looking, and the rest is shaded", async ({ browser }) => {
  test.setTimeout(600_000);
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  const pill = teodor.locator("[data-on-sheet][aria-pressed]");
  const percent = async () => Number(/(\d+) % seen/.exec((await pill.textContent())!)![1]);
  const item = teodor.getByRole("navigation", { name: "Items of the package" }).getByRole("button").first();
  // Whole on the screen its lines are told apart, and its words are not.
  await expect.poll(percent).toBeGreaterThan(0);
  const whole = await percent();
  expect(whole).toBeLessThan(90);
  await expect(item).toContainText(`${whole} % seen`);
  await pill.click();
  await expect(teodor.getByTestId("unseen").locator("path")).toHaveAttribute("d", /^M\d/);
  await check(teodor, "what was not seen is shaded");

  // Looking at the title block, large enough to be read.
  const box = (await teodor.getByRole("application").boundingBox())!;
  await teodor.mouse.move(box.x + box.width * 0.85, box.y + box.height * 0.7);
  for (let i = 0; i < 4; i++) await teodor.mouse.wheel(0, -250);
  await expect.poll(percent).toBeGreaterThan(whole);
  const part = await percent();
  // On a slow machine more is told while one asks.
  await expect.poll(async () => (await item.textContent())!.includes(`${await percent()} % seen`)).toBe(true);
  // It is there still when one comes back.
  await teodor.reload();
  await expect(teodor.locator("[data-sharp=true]")).toBeVisible();
  await expect.poll(percent).toBeGreaterThanOrEqual(part);
  await teodor.keyboard.press("s");
  await expect(teodor.getByTestId("unseen")).toBeVisible();
  await teodor.keyboard.press("s");
  await expect(teodor.getByTestId("unseen")).toBeHidden();
});
