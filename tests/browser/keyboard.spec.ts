import { expect, test, type Page } from "./house";
import { as, choosePlanByKeys, tabTo } from "./person";

const drawings = `${process.env.FROE_ROOT}/demo/drawings`;

test("a drawing is registered and sent, the register filtered and kept as a view, with the keyboard alone", async ({
  browser,
}) => {
  test.setTimeout(240_000);
  const page = await as(browser, "Odalys Brandvold");
  const title = "Keyed: spacer of the retainer";
  const go = async (role: Parameters<Page["getByRole"]>[0], name: string | RegExp) => {
    await tabTo(page, role, name);
    await page.keyboard.press("Enter");
  };

  // Registered: the file is chosen, number and title typed over what the file says, Enter does it.
  await go("link", "Register");
  await expect(page.getByRole("heading", { name: "Register" })).toBeVisible();
  await go("button", "Register a document");
  const chooser = page.waitForEvent("filechooser");
  await go("button", "choose files");
  await (await chooser).setFiles(`${drawings}/TO-3305_A1.dxf`);
  await expect(page.getByText(/DXF 2000 · Model/)).toBeVisible();
  await tabTo(page, "textbox", "Number");
  await page.keyboard.type("TO-9401");
  await page.keyboard.press("Tab");
  await page.keyboard.type(title);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: title })).toBeVisible();

  // Sent: ticked by Space, the plan chosen by arrows in a group that is one stop.
  await go("link", "Send");
  await tabTo(page, "checkbox", /TO-9401/);
  await page.keyboard.press(" ");
  await expect(page.getByRole("checkbox", { name: /TO-9401/ })).toBeChecked();
  await choosePlanByKeys(page, /Checker, then chief/);
  await tabTo(page, "textbox", "Title");
  await page.keyboard.type(title);
  await go("button", /^Send to /);
  await expect(page.getByRole("heading", { name: title })).toBeVisible();

  // Found, filtered and kept under a name; the focus goes back to where it came from.
  await go("link", "Register");
  await expect(page.getByRole("heading", { name: "Register" })).toBeVisible();
  await page.keyboard.press("/");
  await expect(page.getByLabel("Find in the register")).toBeFocused();
  await page.keyboard.type("to-94");
  await expect(page.getByRole("row", { name: new RegExp(title) })).toBeVisible();
  await tabTo(page, "combobox", "Discipline");
  await page.keyboard.type("Mech");
  await expect(page.getByRole("combobox", { name: "Discipline" })).toHaveValue(/^mechanical$/i);
  await go("button", "Views");
  await tabTo(page, "textbox", "Name of the view");
  await page.keyboard.type("My spacers");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "My spacers", exact: true }).last()).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "My spacers", exact: true })).toBeFocused();
});

test("a plan is built, mended, saved and published with the keyboard alone", async ({ browser }) => {
  test.setTimeout(240_000);
  const page = await as(browser, "Koa Whitlock");
  const go = async (role: Parameters<Page["getByRole"]>[0], name: string | RegExp) => {
    await tabTo(page, role, name);
    await page.keyboard.press("Enter");
  };
  const cell = (name: RegExp) => page.locator("[data-cell]").filter({ hasText: name });
  const named = async (name: string) => {
    await page.keyboard.press("Enter");
    await expect(page.locator("#cell-name")).toBeFocused();
    await page.keyboard.press("Control+a");
    await page.keyboard.type(name);
  };
  await go("link", "Plans");
  await expect(page.getByRole("heading", { name: "Plans" })).toBeVisible();
  await go("button", "New plan");
  await go("button", /^Empty/);

  // The first step has the keys at once; a second after it, a third beside that, one taken away again.
  const first = page.getByRole("button", { name: "Add the first step" });
  await expect(first).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(cell(/New step/)).toBeFocused();
  await named("Look");
  await page.keyboard.press("Escape");
  await expect(cell(/Look/)).toBeFocused();
  await page.keyboard.press("a");
  await expect(cell(/New step/)).toBeFocused();
  await named("Approve");
  await page.keyboard.press("Escape");
  await page.keyboard.press("p");
  await expect(cell(/New step/)).toBeFocused();
  await page.keyboard.press("Delete");
  await expect(cell(/Approve/)).toBeFocused();
  await expect(page.locator("[data-cell]")).toHaveCount(2);
  await page.keyboard.press("ArrowLeft");
  await expect(cell(/Look/)).toBeFocused();

  // Who fills a seat is chosen by letters; the finding about the plan's name leads nowhere else.
  await page.keyboard.press("Enter");
  await tabTo(page, "combobox", "Filled by");
  await page.keyboard.type("a per");
  await tabTo(page, "combobox", "Person");
  await page.keyboard.type("Teodor");
  await page.keyboard.press("Escape");
  await expect(cell(/Teodor Quill/)).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("heading", { name: "The plan" })).toBeVisible();
  await tabTo(page, "textbox", "Name of the plan");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("By keys alone");
  await expect(page.getByText("· saved")).toBeVisible();
  await go("button", "Publish edition 1");
  await expect(page.getByRole("button", { name: "Edition 1 is published" })).toBeVisible();
  await page.reload();
  await expect(page.locator("[data-cell]")).toHaveText([/Look.*Teodor Quill/, /Approve.*the originator/]);
});

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
