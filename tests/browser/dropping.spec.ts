import type { BrowserContext } from "@playwright/test";
import { expect, test, type House, type Page } from "./house";
import { as, choosePlanByKeys, cloudByKeys, tabTo } from "./person";

const drawings = `${process.env.FROE_ROOT}/demo/drawings`;
const UNREACHABLE = "The server cannot be reached.";

/** A line on which every answer takes its time. */
const slow = (context: BrowserContext) =>
  context.route("**/api/**", async (route) => {
    await new Promise((later) => setTimeout(later, 250));
    await route.continue();
  });

/** The next such act reaches the server, but its answer is lost on the way back. */
async function loseNextAnswer(page: Page, address: RegExp) {
  let isLost = false;
  await page.route(address, async (route) => {
    if (isLost || route.request().method() === "GET") return route.fallback();
    isLost = true;
    await route.fetch();
    await route.abort();
  });
}

const count = (house: House, sql: string) => Number(house.rows(sql)[0]);

for (const [name, width, height] of [
  ["at twice the zoom", 640, 400],
  ["as wide as a phone", 390, 844],
] as const)
  test(`${name}, by keys alone, on a slow line that loses what it can: sent, noted and signed once each`, async ({
    browser,
    house,
  }) => {
    test.setTimeout(420_000);
    const [number, title] = [`TO-95${width}`, `Dropped ${name}`];
    const odalys = await as(browser, "Odalys Brandvold");
    await odalys.setViewportSize({ width, height });
    await slow(odalys.context());
    const go = async (page: Page, role: Parameters<Page["getByRole"]>[0], words: string | RegExp) => {
      await tabTo(page, role, words);
      await page.keyboard.press("Enter");
    };

    // Registered: the first answer is lost, pressed again it is there once.
    await go(odalys, "link", "Register");
    await go(odalys, "button", "Register a document");
    const chooser = odalys.waitForEvent("filechooser");
    await go(odalys, "button", "choose files");
    await (await chooser).setFiles(`${drawings}/TO-3305_A1.dxf`);
    await expect(odalys.getByText(/DXF 2000 · Model/)).toBeVisible();
    await tabTo(odalys, "textbox", "Number");
    await odalys.keyboard.type(number);
    await odalys.keyboard.press("Tab");
    await odalys.keyboard.type(title);
    await loseNextAnswer(odalys, /api\/documents$/);
    await odalys.keyboard.press("Enter");
    await expect(odalys.getByText(UNREACHABLE, { exact: false }).first()).toBeVisible();
    await odalys.keyboard.press("Enter");
    await expect(odalys.getByRole("heading", { name: title })).toBeVisible();
    expect(count(house, `SELECT count(*) FROM document WHERE number = '${number}'`)).toBe(1);

    // Sent, likewise.
    await odalys.goto("/send");
    await tabTo(odalys, "checkbox", new RegExp(number));
    await odalys.keyboard.press(" ");
    await choosePlanByKeys(odalys, /Checker, then chief/);
    await tabTo(odalys, "textbox", "Title");
    await odalys.keyboard.type(title);
    await loseNextAnswer(odalys, /api\/packages$/);
    await go(odalys, "button", /^Send to /);
    await expect(odalys.getByText(UNREACHABLE, { exact: false }).first()).toBeVisible();
    await expect(odalys.getByLabel("Title")).toHaveValue(title);
    await go(odalys, "button", /^Send to /);
    await expect(odalys.getByRole("heading", { name: title })).toBeVisible();
    expect(count(house, `SELECT count(*) FROM package WHERE title = '${title}'`)).toBe(1);

    // Looked at and noted by who checks it: the line is gone while words are written, and what is written stays.
    const teodor = await as(browser, "Teodor Quill");
    await teodor.setViewportSize({ width, height });
    await slow(teodor.context());
    await teodor.goto(new URL(odalys.url()).pathname);
    await expect(teodor.locator("[data-sharp=true]")).toBeVisible();
    await cloudByKeys(teodor);
    await expect(teodor.getByLabel("Words of the note")).toBeFocused();
    await teodor.keyboard.type("The lip wants a chamfer");
    await teodor.context().setOffline(true);
    await teodor.keyboard.press("Control+Enter");
    await expect(teodor.getByText(UNREACHABLE, { exact: false }).first()).toBeVisible();
    await expect(teodor.getByLabel("Words of the note")).toHaveValue("The lip wants a chamfer");
    await teodor.context().setOffline(false);
    await loseNextAnswer(teodor, /api\/packages\/[^/]+\/notes$/);
    await teodor.getByLabel("Words of the note").focus();
    await teodor.keyboard.press("Control+Enter");
    await expect(teodor.getByLabel("Words of the note")).toBeEnabled();
    await expect(teodor.getByText(UNREACHABLE, { exact: false }).first()).toBeVisible();
    await teodor.keyboard.press("Control+Enter");
    await expect(teodor.getByTestId(/^note-\d+$/).filter({ hasText: "The lip wants a chamfer" })).toBeVisible();
    expect(
      count(
        house,
        `SELECT count(*) FROM note WHERE body = 'The lip wants a chamfer' AND package_id = (SELECT id FROM package WHERE title = '${title}')`,
      ),
    ).toBe(1);

    // Judged and signed: the answer to the signature is lost, and it is given once.
    await teodor.getByRole("application").first().focus();
    await teodor.keyboard.press("3");
    await expect(teodor.getByRole("radio", { name: /^Return / })).toBeChecked();
    await go(teodor, "button", /^Return with/);
    await expect(teodor.getByLabel("Your password, again")).toBeVisible();
    await tabTo(teodor, "textbox", "Your password, again");
    await teodor.keyboard.type("tallowmere refit");
    await loseNextAnswer(teodor, /api\/packages\/[^/]+\/sign-offs$/);
    await teodor.keyboard.press("Enter");
    await expect(teodor.getByRole("dialog").getByText(UNREACHABLE, { exact: false })).toBeVisible();
    await teodor.keyboard.press("Enter");
    await expect(teodor.getByRole("heading", { name: "Desk" })).toBeVisible();
    expect(
      count(house, `SELECT count(*) FROM sign_off s JOIN package k ON k.id = s.package_id WHERE k.title = '${title}'`),
    ).toBe(1);
    expect(house.froe("verify")).toContain("every hash holds");
  });
