import { expect, test } from "./house";
import { as, check } from "./person";

test("a person is barred: their window ends, the door stays shut, the log says so, and they are let in again", async ({
  browser,
}) => {
  const [bettany, koa] = [await as(browser, "Bettany Orr"), await as(browser, "Koa Whitlock")];
  await koa.goto("/office/people");
  await koa.getByRole("button", { name: /^Bettany Orr/ }).click();
  const barring = koa.getByRole("region", { name: "Barring" });
  await barring.getByRole("button", { name: "Bar this person" }).click();
  await expect(barring.getByRole("heading", { name: "What they hold" })).toBeVisible();
  await expect(barring.getByRole("button", { name: "Bar Bettany Orr" })).toBeDisabled();
  await barring.getByLabel("Reason, for the record").fill("Left the yard; her work is handed over");
  await check(koa, "barring");
  await barring.getByRole("button", { name: "Bar Bettany Orr" }).click();
  await expect(barring.getByRole("status")).toContainText("Barred since");

  // Her window is asked to sign in again, and the right password does not let her.
  const ended = bettany.getByRole("dialog", { name: "Your session has ended" });
  await expect(ended).toBeVisible({ timeout: 60_000 });
  await check(bettany, "session ended");
  await ended.getByLabel("Password").fill("tallowmere refit");
  await ended.getByRole("button", { name: "Sign in again" }).click();
  await expect(ended.getByRole("alert")).toBeVisible();

  await koa.getByRole("link", { name: "Security" }).click();
  const log = koa.getByRole("region", { name: "Security log" });
  await koa.getByLabel("What").selectOption("person barred");
  await expect(log.getByRole("row").nth(1)).toContainText("Bettany Orr");
  await check(koa, "security");
  await koa.getByLabel("Find in the security log").fill("nobody of that name");
  await expect(koa.getByText("Nothing of that kind")).toBeVisible();

  await koa.goto("/office/people");
  await koa.getByRole("button", { name: /^Bettany Orr/ }).click();
  await barring.getByRole("button", { name: "Let them in again" }).click();
  await barring.getByLabel("Reason, for the record").fill("Came back");
  await barring.getByRole("button", { name: "Let in Bettany Orr" }).click();
  await expect(barring.getByRole("button", { name: "Bar this person" })).toBeVisible();
  await as(browser, "Bettany Orr");
});

test("somebody sees where they are signed in and ends the other place; a link that is spent says so", async ({
  browser,
  page,
}) => {
  const [here, there] = [await as(browser, "Halvard Sime"), await as(browser, "Halvard Sime")];
  await here.getByRole("button", { name: /your account/ }).click();
  await here.getByText("Password and sessions").click();
  const places = here.getByRole("region", { name: "Where you are signed in" });
  await expect(places.getByRole("button", { name: "End it" }).first()).toBeVisible();
  await check(here, "account");
  for (let n = await places.getByRole("button", { name: "End it" }).count(); n > 0; n--) {
    await places.getByRole("button", { name: "End it" }).first().click();
    await expect(places.getByRole("button", { name: "End it" })).toHaveCount(n - 1);
  }
  await there.reload();
  await expect(there.getByRole("button", { name: "Sign in", exact: true })).toBeVisible();
  await here.reload();
  await expect(here.getByRole("heading", { name: "Desk" })).toBeVisible();

  await page.goto("/welcome#nothing-of-the-kind");
  await page.getByLabel("New password", { exact: true }).fill("a long way to the pier");
  await page.getByLabel("New password, again").fill("a long way to the pier");
  await check(page, "welcome");
  await page.getByRole("button", { name: "Set the password and sign in" }).click();
  await expect(page.getByRole("alert")).toBeVisible();
});
