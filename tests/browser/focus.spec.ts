import { expect, test } from "./house";
import { as, cloudByKeys, hold, openBench } from "./person";

test("a dialog gives the keys back to what had them, unless what is done there takes them", async ({ browser }) => {
  const page = await as(browser, "Teodor");
  const row = page.locator("[data-row]").nth(1);
  const find = page.getByRole("combobox", { name: "Find or do" });
  await row.focus();
  await page.keyboard.press("Control+k");
  await expect(find).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(row).toBeFocused();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
  // One in place of the other: the one that had opened it is gone by then.
  await page.keyboard.press("Control+k");
  await expect(find).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(row).toBeFocused();

  // What was chosen takes the keys elsewhere.
  await page.keyboard.press("Control+k");
  await page.keyboard.type("find in this place");
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Find on the desk")).toBeFocused();

  // Opened from a menu, which is gone by then: back to the button of the menu.
  const account = page.getByRole("button", { name: /your account$/ });
  await account.focus();
  await page.keyboard.press("Enter");
  await page.getByRole("menuitem", { name: "Dates and clock" }).press("Enter");
  await expect(page.getByRole("dialog", { name: "Dates and clock" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(account).toBeFocused();

  await openBench(page, "Bearing housing to G7");
  for (const name of ["Ledger", "Change the route"]) {
    const opener = page.getByRole("button", { name, exact: true });
    await opener.press("Enter");
    const sheet = page.getByRole("dialog", { name: new RegExp(name) });
    await expect(sheet).toBeVisible();
    // One over the other: each gives them back to what lies below.
    await page.keyboard.press("Tab");
    await expect(sheet.locator(":focus")).toHaveCount(1);
    await page.keyboard.press("Control+k");
    await expect(find).toBeFocused();
    await page.keyboard.press("Escape");
    await expect(find).toHaveCount(0);
    await expect(sheet.locator(":focus")).toHaveCount(1);
    await page.keyboard.press("Escape");
    await expect(opener).toBeFocused();
  }
});

test("who has gone on when a part closes is not called back, however late the machine is", async ({ browser }) => {
  const page = await as(browser, "Teodor");
  // What a page does at once, a busy machine does late.
  await page.addInitScript(() => {
    const timer = window.setTimeout;
    const late = (then: TimerHandler, after?: number, ...of: unknown[]) => timer(then, after || 700, ...of);
    window.setTimeout = late as typeof window.setTimeout;
  });
  await openBench(page, "Bearing housing to G7");
  const words = page.getByLabel("Words to find");
  const closeAndFind = async () => {
    await page.keyboard.press("Escape");
    await page.locator("#sheet").focus();
    await page.keyboard.press("/");
    await words.fill("housing");
    await page.waitForTimeout(1000);
    await expect(words).toBeFocused();
    await page.keyboard.press("Escape");
  };
  const scale = page.getByRole("button", { name: /^1 ?:|^Scale/ });
  await scale.click();
  await expect(page.getByRole("dialog", { name: "Scale" })).toBeVisible();
  await closeAndFind();
  await page.getByRole("button", { name: "Ledger", exact: true }).click();
  await expect(page.getByRole("dialog", { name: /Ledger/ })).toBeVisible();
  await closeAndFind();
  await page.getByRole("button", { name: /^Layers/ }).click();
  await expect(page.getByRole("dialog", { name: "Layers" })).toBeVisible();
  await closeAndFind();
});

test("who has gone on while a note is on its way is not called back when it has come", async ({ browser }) => {
  const page = await as(browser, "Teodor");
  await openBench(page, "Bearing housing to G7");
  let letGo = () => {};
  const held = new Promise<void>((done) => (letGo = done));
  // On the second item: another story counts what lies on the first.
  await page.keyboard.press("n");
  const items = page.getByRole("navigation", { name: "Items of the package" }).getByRole("button");
  await expect(items.nth(1)).toHaveAttribute("aria-current", "true");
  await expect(page.locator("[data-sharp=true]")).toBeVisible();
  await cloudByKeys(page);
  await page.getByLabel("Words of the note").fill("Gone on");
  // What lies on the sheet comes late, after the note is there to be seen.
  await page.route(/api\/drafts\/[^/]+\/overlays$/, async (route) => {
    await held;
    await route.continue();
  });
  await page.keyboard.press("Control+Enter");
  await expect(page.getByTestId(/^note-\d+$/).filter({ hasText: "Gone on" })).toBeVisible();
  const ledger = page.getByRole("button", { name: "Ledger", exact: true });
  await ledger.focus();
  letGo();
  await expect(page.getByLabel("Words of the note")).toBeHidden();
  await expect(ledger).toBeFocused();

  // Nor back to a note that was answered, from the next that is being written by then.
  const notes = page.getByTestId(/^note-\d+$/);
  const edited = notes.filter({ hasText: "Gone on" });
  await edited.getByRole("button", { name: "Edit" }).click();
  await edited.getByRole("textbox").fill("Gone on, and further");
  const answer = await hold(page, /api\/notes\/[^/]+\/acts$/);
  await edited.locator("[type=submit]").click();
  await page.getByRole("button", { name: "Write a note about the whole" }).click();
  const next = page.getByLabel("Words of the note");
  await next.pressSequentially("Next");
  answer();
  await expect(edited.getByText("Gone on, and further")).toBeVisible();
  await expect(edited.getByRole("textbox")).toBeHidden();
  await expect(edited.getByRole("button", { name: "Edit" })).toBeEnabled();
  await expect(next).toBeFocused();

  // Nor to words that the server would not take.
  let refuse = () => {};
  const refused = new Promise<void>((done) => (refuse = done));
  await page.route(/api\/packages\/[^/]+\/notes$/, async (route) => {
    await refused;
    await route.fulfill({ status: 503 });
  });
  await page.keyboard.press("Control+Enter");
  await ledger.focus();
  refuse();
  await expect(page.getByText("The server could not do this.", { exact: false })).toBeVisible();
  await expect(ledger).toBeFocused();
});

test("a dialog that was opened from nowhere, and one from it that gives the keys back by itself, end in no circle", async ({
  browser,
}) => {
  const page = await as(browser, "Teodor");
  const faults: string[] = [];
  page.on("pageerror", (e) => faults.push(e.message));
  const had = await page.evaluate(async () => {
    const settled = () => new Promise((later) => setTimeout(later, 50));
    const put = (within: HTMLElement, role: string) => {
      const made = document.createElement("div");
      [made.tabIndex, made.role] = [-1, role];
      within.append(made);
      made.focus();
      return made;
    };
    // Nothing has the keys, and nothing takes them.
    const title = document.querySelector<HTMLElement>("[data-place-title]")!;
    delete title.dataset.placeTitle;
    put(document.body, "note").remove();
    await settled();
    const below = put(document.body, "dialog");
    const above = put(document.body, "dialog");
    below.focus();
    above.remove();
    title.dataset.placeTitle = "";
    below.remove();
    await settled();
    return document.activeElement === title;
  });
  expect(faults).toEqual([]);
  expect(had).toBe(true);
});

test("what is typed before 'Find or do' has come is not lost, and no key of the page", async ({ browser }) => {
  const page = await as(browser, "Teodor");
  const letGo = await hold(page, /\/FindAll-[^/]*\.js/);
  // Over a sheet: Escape closes what is typed in, and leaves the sheet.
  await page.getByRole("button", { name: /your account$/ }).press("Enter");
  await page.getByRole("menuitem", { name: "Dates and clock" }).press("Enter");
  const dates = page.getByRole("dialog", { name: "Dates and clock" });
  await expect(dates).toBeVisible();
  await page.keyboard.press("Control+k");
  await expect(page.getByRole("combobox", { name: "Find or do" })).toBeFocused();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("combobox", { name: "Find or do" })).toHaveCount(0);
  await expect(dates).toBeVisible();
  await expect(dates.locator(":focus")).toHaveCount(1);
  await page.keyboard.press("Escape");
  await expect(dates).toHaveCount(0);
  const row = page.locator("[data-row]").nth(1);
  await row.focus();
  await page.keyboard.press("Control+k");
  const find = page.getByRole("combobox", { name: "Find or do" });
  await expect(find).toBeFocused();
  // "h" alone leads to the desk, "?" shows the keys.
  await page.keyboard.type("h?turnar");
  for (let i = 0; i < 6; i++) await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Backspace");
  await page.keyboard.press("Backspace");
  await expect(find).toHaveValue("turnar");
  const found = page.getByRole("dialog").getByRole("option");
  await expect(found).toHaveCount(0);
  letGo();
  await expect(found.filter({ hasText: "Turnaround" })).toBeVisible();
  await expect(find).toBeFocused();
  await expect(find).toHaveValue("turnar");
  await page.keyboard.press("Escape");
  await expect(row).toBeFocused();
});

test("a part of a page that cannot be fetched says so, leaves the page, and comes when it is asked for again", async ({
  browser,
}) => {
  const page = await as(browser, "Teodor");
  const row = page.locator("[data-row]").first();
  const account = page.getByRole("button", { name: /your account$/ });
  const dead = /\/(FindAll|KeysSheet|AccountMenu|SignManySheet)-[^/]*\.js/;
  await page.route(dead, (route) => route.abort());
  const said = page.getByText("This part of the page could not be fetched.", { exact: false });
  const asked: readonly (() => Promise<void>)[] = [
    () => page.keyboard.press("Control+k"),
    () => page.keyboard.press("?"),
    () => account.press("Enter"),
    () => page.getByRole("button", { name: "Sign several at once" }).first().press("Enter"),
  ];
  for (const ask of asked) {
    await ask();
    await expect(said).toBeVisible();
    await expect(row).toBeVisible();
    await page.reload();
    await expect(row).toBeVisible();
  }
  await page.keyboard.press("Control+k");
  await expect(said).toBeVisible();
  await page.unroute(dead);
  await page.keyboard.press("Control+k");
  await page.keyboard.type("turnar");
  await expect(page.getByRole("option", { name: /Turnaround/ })).toBeVisible();
});

test("a page of a Froe that was renewed meanwhile is opened anew when a part of it is gone", async ({ browser }) => {
  const page = await as(browser, "Teodor");
  await expect(page.locator("[data-row]").first()).toBeVisible();
  await page.route(/\/FindAll-[^/]*\.js/, (route) => route.fulfill({ status: 404 }));
  await page.route("/", (route) =>
    route.request().resourceType() === "fetch"
      ? route.fulfill({
          contentType: "text/html",
          body: '<script type="module" src="/assets/first-renewed.js"></script>',
        })
      : route.fallback(),
  );
  const anew = page.waitForEvent("framenavigated");
  await page.keyboard.press("Control+k");
  await anew;
  await page.unroute(/\/FindAll-[^/]*\.js/);
  await expect(page.locator("[data-row]").first()).toBeVisible();
  await page.keyboard.press("Control+k");
  await page.keyboard.type("turnar");
  await expect(page.getByRole("option", { name: /Turnaround/ })).toBeVisible();
});
