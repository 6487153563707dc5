import { expect, test, type Page } from "./house";
import { as } from "./person";

/** Presses Tab until something of this role and name has the focus; fails after a while, as a person would give up. */
async function tabTo(page: Page, role: Parameters<Page["getByRole"]>[0], name: string | RegExp) {
  const wanted = page.getByRole(role, { name }).first();
  for (let i = 0; i < 80; i++) {
    await page.keyboard.press("Tab");
    if (await wanted.evaluate((e) => e === document.activeElement).catch(() => false)) return;
  }
  throw new Error(`${role} ${String(name)} cannot be reached by the Tab key`);
}

test("a package is found, looked at, judged and signed with the keyboard alone", async ({ browser }) => {
  test.setTimeout(240_000);
  const teodor = await as(browser, "Teodor Quill");
  const title = "Cabinet wiring for the shutter drive";
  const row = teodor.getByRole("button", { name: new RegExp(title) });
  await expect(row).toBeVisible();
  // The row that is picked says so at once; what is told of it beside the list may come later.
  for (let i = 0; i < 20 && (await row.getAttribute("aria-current")) !== "true"; i++)
    await teodor.keyboard.press("ArrowDown");
  await expect(teodor.getByRole("complementary", { name: title })).toBeVisible();
  await teodor.keyboard.press("Enter");
  await expect(teodor.getByRole("heading", { name: title })).toBeVisible();
  await expect(teodor.locator("[data-sharp=true]")).toBeVisible();

  // What a cell of the strip says is read by moving the focus to it.
  await tabTo(teodor, "note", "Chief engineer, Chief eng.");
  await expect(teodor.getByText("Release for manufacture.", { exact: false }).last()).toBeVisible();

  await teodor.keyboard.press("1");
  await expect(teodor.getByRole("radio", { name: /^Approve / })).toBeChecked();
  await tabTo(teodor, "button", /^Sign 1 item/);
  await teodor.keyboard.press("Enter");
  await expect(teodor.getByLabel("Your password, again")).toBeFocused();
  await teodor.keyboard.type("tallowmere refit");
  await teodor.keyboard.press("Enter");
  await expect(teodor.getByRole("heading", { name: "Desk" })).toBeVisible();
  await expect(teodor.getByRole("button", { name: new RegExp(title) })).toBeHidden();
});
