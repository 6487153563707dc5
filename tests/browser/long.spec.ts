import { expect, test, type Page } from "./house";
import { as, check } from "./person";

const drawings = `${process.env.FROE_ROOT}/demo/drawings`;

/** Words as people of the world may type them: as long as may be, without a blank, in scripts of both directions. */
const UNBROKEN = "Lagerbockverschraubungsunterlagscheibe".repeat(6).slice(0, 200);
const ARABIC = "غلاف محمل الميل مع حلقة الختم الخارجية ".repeat(6).slice(0, 199).trim();
const CHINESE = "赤纬轴轴承座与密封环的装配图".repeat(14).slice(0, 190);
const NUMBER = "TO-LONG-0123456789-0123456789-0123456789";

/** What reaches beyond the window, where the page as a whole would have to be scrolled sideways. */
const reachesOut = (page: Page) =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

test("the longest names in any script are shown, cut or folded without pushing anything out of reach", async ({
  browser,
}) => {
  test.setTimeout(420_000);
  const odalys = await as(browser, "Odalys Brandvold");
  for (const [i, title] of [UNBROKEN, ARABIC, CHINESE].entries()) {
    await odalys.goto("/register");
    await odalys.getByRole("button", { name: "Register a document" }).click();
    await odalys.getByLabel("Drawing file").setInputFiles(`${drawings}/TO-3305_A1.dxf`);
    await expect(odalys.getByText(/DXF 2000 · Model/)).toBeVisible();
    await odalys.getByLabel("Number").fill(`${NUMBER.slice(0, 39)}${i}`);
    await odalys.getByLabel("Title").fill(title);
    await odalys.getByRole("dialog").getByLabel("Discipline").fill("Feinmechanikundelektrotechnik".repeat(2));
    await odalys.getByRole("button", { name: "Register the document" }).click();
    await expect(odalys.getByRole("heading", { name: title })).toBeVisible();
  }
  await odalys.goto("/send");
  for (const i of [0, 1, 2]) await odalys.getByRole("checkbox", { name: `${NUMBER.slice(0, 39)}${i}` }).check();
  await odalys.getByRole("radio", { name: /Checker, then chief/ }).click();
  await odalys.getByLabel("Title").fill(UNBROKEN);
  await odalys.getByLabel("Covering note").fill(`${UNBROKEN} ${ARABIC} ${CHINESE}`);
  await odalys.getByLabel("Change order").fill(UNBROKEN.slice(0, 60));
  await check(odalys, "sending what is long");
  await odalys.getByRole("button", { name: /^Send to / }).click();
  await expect(odalys.getByRole("heading", { name: UNBROKEN })).toBeVisible();
  const bench = odalys.url();

  const teodor = await as(browser, "Teodor Quill");
  await teodor.goto(bench);
  await expect(teodor.locator("[data-sharp=true]")).toBeVisible();
  await teodor.getByRole("button", { name: "Write a note about the whole" }).click();
  await teodor.getByLabel("Words of the note").fill(`${UNBROKEN}${UNBROKEN} ${ARABIC} ${CHINESE}`);
  await teodor.getByRole("button", { name: "Add request" }).click();
  await expect(teodor.getByTestId(/^note-\d+$/).filter({ hasText: ARABIC })).toBeVisible();

  for (const colorScheme of ["light", "dark"] as const) {
    await teodor.emulateMedia({ colorScheme });
    const places = [bench, "/", "/register", "/notes", "/turnaround", "/ledger", "/post"];
    // The other table has the same lines in other colours: some places show that they hold there.
    for (const path of colorScheme === "light" ? places : places.slice(0, 3)) {
      await teodor.setViewportSize({ width: 1280, height: 800 });
      await teodor.goto(path);
      await expect(teodor.getByText(/Lagerbock|غلاف|TO-LONG|waits for your signature/).first()).toBeVisible();
      await check(teodor, `${path}, ${colorScheme}`);
      if (colorScheme === "dark") continue;
      for (const [width, height] of [
        [1280, 800],
        [960, 700],
        [640, 400],
        [390, 844],
      ] as const) {
        await teodor.setViewportSize({ width, height });
        await expect(async () => expect(await reachesOut(teodor), `${path} at ${width}`).toBe(0)).toPass({
          timeout: 20_000,
        });
      }
    }
  }
});
