import { expect, test } from "./house";
import { as, check, hold, openBench } from "./person";

test("a list that is opened by its address is asked for once, as the address says, ahead of the place and by it", async ({
  browser,
}) => {
  const koa = await as(browser, "Koa Whitlock");
  const asked: string[] = [];
  koa.on("request", (r) => asked.push(new URL(r.url()).pathname + new URL(r.url()).search));
  for (const [address, path, ...narrowed] of [
    ["/register?standing=released&sort=-changed", "/api/documents", "standing=released", "sort=-changed"],
    ["/turnaround?standing=released&search=bearing", "/api/packages", "standing=released", "search=bearing"],
    ["/notes?kind=question&whose=asked&standing=all", "/api/notes", "kind=question", "author="],
    ["/ledger?subject=plan&from=2026-01-01", "/api/ledger", "subject=plan", "from=2025-12-31T23:00"],
    ["/post?unread=true&search=pier", "/api/messages", "unread=true", "search=pier"],
  ] as const) {
    asked.length = 0;
    await koa.goto(address);
    await expect(koa.getByRole("heading", { level: 1 })).toBeVisible();
    await koa.waitForLoadState("networkidle");
    const lists = asked.filter((a) => a.startsWith(`${path}?`) && a !== "/api/messages?unread=true");
    expect(lists, address).toHaveLength(1);
    for (const part of narrowed) expect(decodeURIComponent(lists[0]!)).toContain(part);
  }
});

test("a package that is opened by its address asks ahead for the picture of the sheet that it names", async ({
  browser,
}) => {
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  const address = new URL(teodor.url());
  address.searchParams.set("item", "TO-3305");
  await teodor.goto(address.href);
  await expect(teodor.locator("[data-sharp=true]")).toBeVisible();
  const picture = await teodor.locator("#sheet img").first().getAttribute("src");
  await expect(teodor.locator("link[rel=preload][as=image]")).toHaveAttribute("href", picture!);
});

test("a package that is opened by its address asks for its picture before the script that shows it has come", async ({
  browser,
}) => {
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  const address = teodor.url();
  const letGo = await hold(teodor, "**/assets/house-*.js");
  const picture = teodor.waitForRequest(/\/api\/drafts\/[^/]+\/leaves\/\d+\/picture$/);
  const asked: string[] = [];
  teodor.on("request", (r) => asked.push(new URL(r.url()).pathname));
  await teodor.goto(address, { waitUntil: "commit" });
  await picture;
  letGo();
  await expect(teodor.locator("[data-sharp=true]")).toBeVisible();
  // What was asked for ahead is not asked for again by the place.
  for (const path of ["/api/session", new URL(address).pathname.replace("/packages", "/api/packages")])
    expect(
      asked.filter((a) => a === path),
      path,
    ).toHaveLength(1);
});

test("a bench that is opened again shows its sheet where it will lie before the script that draws it has come", async ({
  browser,
}) => {
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  const address = teodor.url();
  const early = teodor.locator("[data-early]");
  const sharp = teodor.locator("[data-sharp=true]");
  const letGo = await hold(teodor, "**/assets/house-*.js");
  await teodor.goto(address, { waitUntil: "commit" });
  await expect(early.locator("img")).toHaveJSProperty("complete", true);
  const seen = (await early.locator("img").boundingBox())!;
  letGo();
  await expect(sharp).toBeVisible();
  await expect(early).toHaveCount(0);
  const lies = (await sharp.locator("img").first().boundingBox())!;
  for (const side of ["x", "y", "width", "height"] as const) expect(lies[side], side).toBeCloseTo(seen[side], 0);

  // Whoever presses something means what they see behind it; and a page that is slow to come keeps it no longer than a while.
  const letGoAgain = await hold(teodor, "**/assets/house-*.js");
  await teodor.goto(address, { waitUntil: "commit" });
  await expect(early).toBeVisible();
  await teodor.mouse.click(600, 300);
  await expect(early).toHaveCount(0);
  letGoAgain();
  await expect(sharp).toBeVisible();

  // An address that leads to a place on a sheet, or to two, shows it otherwise; in another window it lies elsewhere.
  const shows = async (to: string, count: 0 | 1) => {
    await teodor.goto("about:blank");
    const letGo = await hold(teodor, "**/assets/house-*.js");
    const picture = teodor.waitForRequest(/leaves\/\d+\/picture$/);
    await teodor.goto(to, { waitUntil: "commit" });
    await picture;
    // What does not come has its time to come.
    if (count === 0) await teodor.evaluate(() => new Promise((later) => setTimeout(later, 300)));
    await expect(early).toHaveCount(count);
    letGo();
    await expect(sharp).toBeVisible();
  };
  await shows(`${address}&note=1`, 0);
  await teodor.setViewportSize({ width: 1180, height: 760 });
  await shows(address, 0);
  await shows(address, 1);
});

test("a page whose script cannot be had says so", async ({ browser }) => {
  const teodor = await as(browser, "Teodor Quill");
  await teodor.route("**/assets/house-*.js", (route) => route.abort());
  await teodor.reload();
  await expect(teodor.getByRole("alert")).toHaveText(/could not be fetched.*open this page again/);
  await teodor.unroute("**/assets/house-*.js");
  await teodor.reload();
  await expect(teodor.getByRole("heading", { name: "Desk" })).toBeVisible();
});

test("whoever goes on the moment a package is seen is not led back to it", async ({ browser }) => {
  const teodor = await as(browser, "Teodor Quill");
  // The script of the bench comes after the press, so that what was pressed is over when it is drawn.
  const letGo = await hold(teodor, "**/assets/Bench-*.js");
  await teodor.reload();
  const row = teodor.getByRole("button", { name: /Bearing housing to G7 seals/ });
  await row.click();
  await expect(teodor.getByRole("heading", { name: "Bearing housing to G7 seals" })).toBeVisible();
  await teodor.evaluate(() =>
    new MutationObserver((_, watch) => {
      if (!document.querySelector("h1")?.textContent.includes("Bearing housing to G7 seals")) return;
      watch.disconnect();
      window.history.pushState({}, "", "/register");
      window.dispatchEvent(new PopStateEvent("popstate"));
    }).observe(document.body, { childList: true, subtree: true, characterData: true }),
  );
  await row.dblclick();
  await expect(teodor.getByText("Fetching the bench …")).toBeVisible();
  letGo();
  await expect(teodor.getByRole("heading", { name: "Register" })).toBeVisible();
  await teodor.waitForLoadState("networkidle");
  await expect(teodor.getByRole("heading", { name: "Register" })).toBeVisible();
  expect(new URL(teodor.url()).pathname).toBe("/register");
});

test("while a dialog is open the page behind takes no press, and one beside it closes it", async ({ browser }) => {
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  // Where a press that came through would open another item.
  const other = teodor.getByRole("navigation", { name: "Items of the package" }).getByRole("button").nth(1);
  const at = (await other.boundingBox())!;
  const press = () => teodor.mouse.click(at.x + 30, at.y + 30);
  const address = teodor.url();
  for (const name of ["Ledger", "Change the route"]) {
    await teodor.getByRole("button", { name, exact: true }).click();
    const dialog = teodor.getByRole("dialog");
    await expect(dialog).toBeVisible();
    // The primitive listens a moment after it is seen: no hand is as quick as this one.
    await expect(async () => {
      if (await dialog.isVisible()) await press();
      await expect(dialog).toBeHidden({ timeout: 10_000 });
    }).toPass({ timeout: 60_000 });
    expect(teodor.url()).toBe(address);
    // Nothing of it is left behind: the page takes presses again.
    await expect(teodor.locator("body")).not.toHaveCSS("pointer-events", "none");
  }
  // A menu has no veil; nor does it let a press through.
  await teodor.getByRole("button", { name: /your account$/ }).click();
  await expect(teodor.getByRole("menu")).toBeVisible();
  await expect(async () => {
    if (await teodor.getByRole("menu").isVisible()) await press();
    await expect(teodor.getByRole("menu")).toBeHidden({ timeout: 10_000 });
  }).toPass({ timeout: 60_000 });
  expect(teodor.url()).toBe(address);
  await press();
  await expect(teodor).toHaveURL(/item=TO-3305/);
});

test("a list whose address names an order that it has not is shown in its usual one", async ({ browser }) => {
  const koa = await as(browser, "Koa Whitlock");
  await koa.goto("/register?sort=-nonsense");
  await expect(koa.getByRole("row").nth(1)).toBeVisible();
  await expect(koa.getByRole("button", { name: "Load again" })).toHaveCount(0);
});

test("a tool whose key is pressed before it is known what lies on a sheet is in hand once it is", async ({
  browser,
}) => {
  const teodor = await as(browser, "Teodor Quill");
  const letGo = await hold(teodor, "**/api/drafts/*/overlays");
  await openBench(teodor, "Bearing housing to G7 seals");
  await expect(teodor.getByRole("button", { name: "Cloud" })).toHaveCount(0);
  await teodor.getByRole("application").first().focus();
  await teodor.keyboard.press("c");
  letGo();
  await expect(teodor.getByRole("button", { name: "Cloud", exact: true })).toHaveAttribute("aria-pressed", "true");
  await teodor.keyboard.press("ArrowRight");
  await expect(teodor.getByText(/First corner.*arrows move the cross/)).toBeVisible();
});

test("a place that is not open to somebody says so and leads back to the desk, and offers nothing of it", async ({
  browser,
}) => {
  const guest = await as(browser, "Halvard Sime");
  for (const path of ["/ledger", "/monitor", "/plans", "/send", "/office/people"]) {
    await guest.goto(path);
    await expect(guest.getByText("This place is not open to you")).toBeVisible();
    await expect(guest.getByText("Guests see their desk", { exact: false })).toBeVisible();
    await expect(guest.getByRole("button", { name: /Load again|Send|CSV/ })).toHaveCount(0);
  }
  await check(guest, "a closed place");
  await guest.getByRole("link", { name: "Go to the desk" }).click();
  await expect(guest.getByRole("heading", { name: "Desk" })).toBeVisible();
  const teodor = await as(browser, "Teodor Quill");
  await teodor.goto("/office");
  await expect(teodor.getByText(/for administrators/)).toBeVisible();
  await expect(teodor.getByRole("heading", { name: "Office" })).toBeVisible();
});

test("a fault outside of every place leaves words and a way on, not an empty page", async ({ browser }) => {
  const teodor = await as(browser, "Teodor Quill");
  await teodor.route("**/api/session", async (route) => {
    const answer = (await (await route.fetch()).json()) as object;
    await route.fulfill({ json: { ...answer, rights: null } });
  });
  await teodor.reload();
  await expect(teodor.getByText("This page has failed")).toBeVisible();
  await teodor.unroute("**/api/session");
  await teodor.getByRole("button", { name: "Open the page again" }).click();
  await expect(teodor.getByRole("heading", { name: "Desk" })).toBeVisible();
});
