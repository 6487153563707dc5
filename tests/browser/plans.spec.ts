import { expect, test } from "./house";
import { as, check } from "./person";

test("a coordinator builds a plan with branches and a choice, mends what the check finds, and publishes it", async ({
  browser,
}) => {
  test.setTimeout(300_000);
  const koa = await as(browser, "Koa Whitlock");
  await koa.getByRole("link", { name: "Plans" }).click();
  await koa.getByRole("button", { name: "New plan" }).click();
  await koa.getByRole("button", { name: /^Two steps/ }).click();
  const stall = koa.getByRole("region", { name: "What would stall it" });
  await expect(stall).toContainText("Nobody is named for seat “Checker”");
  await expect(koa.getByRole("button", { name: /Publish edition 1/ })).toBeDisabled();

  // The first step by keyboard: picked, named, and given to a person.
  await koa.getByRole("button", { name: /^Step 2 days Check/ }).click();
  await koa.getByLabel("Name of the step").fill("Look");
  await koa.getByLabel("Person").selectOption({ label: "Teodor Quill" });
  await koa.getByRole("button", { name: /^Step 2 days Approve/ }).click();
  await koa.getByLabel("Person").selectOption({ label: "Ruben Tashiro-Lowe" });
  await expect(stall).toContainText("Nothing: every seat can be filled");

  // A branch beside the first step, for two of a group; a choice after it; then one step back and forth.
  const look = koa.getByRole("button", { name: /^Step 2 days Look/ });
  await look.click();
  await koa.keyboard.press("p");
  await koa.getByLabel("Name of the step").fill("Inspect");
  await koa.getByLabel("Filled by").selectOption("group");
  await koa.getByLabel("Group", { exact: true }).selectOption({ label: "Quality (3)" });
  await koa.getByLabel("How many sign").selectOption("2");
  await koa.getByRole("button", { name: /^Step 2 days Look/ }).click();
  await koa.keyboard.press("o");
  await expect(koa.getByText("if the number of documents is more than 1", { exact: true })).toBeVisible();
  const count = await koa.locator("[data-cell]").count();
  await koa.getByRole("button", { name: "Undo" }).click();
  await expect(koa.locator("[data-cell]")).toHaveCount(count - 2);
  await koa.getByRole("button", { name: "Redo" }).click();
  await expect(koa.locator("[data-cell]")).toHaveCount(count);
  await expect(koa.getByText("through by", { exact: false })).toBeVisible();
  await check(koa, "plan editor");

  // Saved by itself: a reload shows the same plan. Then it is published and can be sent on.
  await expect(koa.getByText("· saved")).toBeVisible();
  await koa.reload();
  await expect(koa.locator("[data-cell]")).toHaveCount(count);
  await koa.getByRole("button", { name: "Publish edition 1" }).click();
  await expect(koa.getByRole("button", { name: "Edition 1 is published" })).toBeVisible();
  await koa.getByRole("link", { name: "Plans" }).first().click();
  await check(koa, "plans");
  const odalys = await as(browser, "Odalys Brandvold");
  await odalys.goto("/send");
  await odalys.getByRole("radio", { name: /^Two steps/ }).click();
  await expect(odalys.getByRole("complementary", { name: "The route" })).toContainText("Teodor Quill");
  await check(odalys, "send with a forecast");
});

test("a heavy part is forecast past the lifting crew, and the stall names who is away", async ({ browser }) => {
  const odalys = await as(browser, "Odalys Brandvold");
  await odalys.goto("/send");
  await odalys.getByRole("radio", { name: /^Mount parts/ }).click();
  const route = odalys.getByRole("complementary", { name: "The route" });
  await odalys.getByLabel(/Lifted mass/).fill("3");
  await expect(route).toContainText("not on this way");
  await odalys.getByLabel(/Lifted mass/).fill("31");
  await expect(route).not.toContainText("not on this way");
  await expect(route).toContainText("2 of 3 are needed and 2 are away");
  await expect(route).toContainText("Bettany Orr");

  // Anybody reads a plan in full: steps, instructions, names, rules.
  await odalys.getByRole("link", { name: "Plans" }).click();
  await odalys.getByRole("listitem").filter({ hasText: "Mount parts" }).getByRole("button", { name: "Read" }).click();
  const reading = odalys.getByRole("dialog");
  await expect(reading).toContainText("Over 25 kg if lifted mass is more than 25 kg");
  await expect(reading).toContainText("Maren Achterberg");
  await expect(reading).toContainText("Wall at the seat, at least 18 (mm)");
  await check(odalys, "a plan read");
});

test("the monitor finds packages by standing, person and words", async ({ browser }) => {
  const koa = await as(browser, "Koa Whitlock");
  await koa.getByRole("link", { name: "Turnaround" }).click();
  await expect(koa.getByRole("link", { name: "Pier foundation, survey update" })).toBeVisible();
  await check(koa, "monitor");
  await koa.getByRole("radio", { name: "released" }).click();
  await expect(koa.getByRole("link", { name: "Fork arm for welding" })).toBeVisible();
  await expect(koa.getByRole("link", { name: "Pier foundation, survey update" })).toBeHidden();
  await koa.getByRole("radio", { name: "all" }).click();
  await koa.getByLabel(/^Search number/).fill("no such package");
  await expect(koa.getByText("No package fits")).toBeVisible();
});
