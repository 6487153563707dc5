import { expect, test } from "./house";
import { as, check, openBench, sign } from "./person";

test("a first plan with branches, 2 of 3 and a choice is built, its stall repaired, sent, signed and found", async ({
  browser,
}) => {
  test.setTimeout(600_000);
  const title = "Rail joint, first along its own plan";
  const koa = await as(browser, "Koa Whitlock");
  await koa.getByRole("link", { name: "Plans" }).click();
  await koa.getByRole("button", { name: "New plan" }).click();
  await koa.getByRole("button", { name: /^Two steps/ }).click();
  await koa.getByLabel("Name of the plan").fill("Rails, first try");

  // Two branches: somebody who is away, and two of three of a group. Then the chief, then a choice.
  await koa.getByRole("button", { name: /^Step 2 days Check/ }).click();
  await koa.getByLabel("Person", { exact: true }).selectOption({ label: "Farid Nyholm" });
  await koa.getByRole("button", { name: /^Step 2 days Check/ }).click();
  await koa.keyboard.press("p");
  await koa.getByLabel("Name of the step").fill("Inspect");
  await koa.getByLabel("Filled by").selectOption("group");
  await koa.getByLabel("Group", { exact: true }).selectOption({ label: "Quality (3)" });
  await koa.getByLabel("How many sign").selectOption("2");
  await koa.getByLabel("Remind the signers").fill("1");
  await koa.getByText("tell somebody").click();
  await koa.getByRole("button", { name: /^Step 2 days Approve/ }).click();
  await koa.getByLabel("Person", { exact: true }).selectOption({ label: "Ruben Tashiro-Lowe" });
  await koa.getByRole("button", { name: /^Step 2 days Approve/ }).click();
  await koa.keyboard.press("o");
  await expect(koa.getByText("if the number of documents is more than 1", { exact: true })).toBeVisible();

  // Its preview says who would keep it waiting; a click mends that.
  const stall = koa.getByRole("region", { name: "What would stall it" });
  await expect(stall).toContainText("its only signer is away");
  await expect(koa.getByText("through by", { exact: false })).toBeVisible();
  await check(koa, "editor with a stall");
  await stall.getByRole("button", { name: "Name a deputy for Farid" }).click();
  await koa.getByLabel("Deputy of Farid Nyholm").selectOption({ label: "Sunniva Pall signs" });
  await expect(koa.getByText("Sunniva Pall signs for them")).toBeVisible();
  await check(koa, "absences");
  await koa.keyboard.press("Escape");
  await expect(stall).toContainText("Nothing: every seat can be filled", { timeout: 60_000 });
  await koa.getByRole("button", { name: "Publish edition 1" }).click();
  await expect(koa.getByRole("button", { name: "Edition 1 is published" })).toBeVisible();

  const odalys = await as(browser, "Odalys Brandvold");
  await odalys.goto("/send");
  await odalys.getByRole("checkbox", { name: /TO-2207/ }).check();
  await odalys.getByRole("radio", { name: /^Rails, first try/ }).click();
  const route = odalys.getByRole("complementary", { name: "The route" });
  await expect(route).toContainText("not on this way");
  await odalys.getByLabel("Title").fill(title);
  await odalys.getByRole("button", { name: "Put aside" }).click();
  await expect(odalys.getByText("You find it on your desk")).toBeVisible();
  await odalys.getByRole("link", { name: "Desk" }).click();
  await odalys.getByRole("link", { name: new RegExp(title) }).click();
  await expect(odalys.getByLabel("Title")).toHaveValue(title);
  await odalys.getByRole("button", { name: /^Send to/ }).click();
  await expect(odalys.getByRole("heading", { name: title })).toBeVisible();

  // The deputy signs for who is away, two of three inspect, the chief approves though his session ends while he types.
  const sunniva = await as(browser, "Sunniva Pall");
  await openBench(sunniva, title);
  await expect(sunniva.getByText("You sign for Farid Nyholm")).toBeVisible();
  await sign(sunniva, ["Approve"], "In Farid's place.");
  await openBench(koa, title);
  await sign(koa, ["Approve"], "");
  const ilse = await as(browser, "Ilse Marchetti");
  await openBench(ilse, title);
  await sign(ilse, ["Approve"], "Can be inspected.");
  const ruben = await as(browser, "Ruben Tashiro-Lowe");
  await openBench(ruben, title);
  await ruben.getByRole("radio", { name: /^Approve / }).click();
  await ruben.getByRole("button", { name: /^Sign 1/ }).click();
  await ruben.getByLabel("Closing remark").fill("Typed before the session ended.");
  await ruben.getByLabel("Your password, again").fill("tallowmere refit");
  await ruben.context().clearCookies();
  // The signature finds it out, unless something that the page looks up by itself does so before.
  const ended = ruben.getByRole("heading", { name: "Your session has ended" });
  await expect(async () => {
    const button = ruben.getByRole("button", { name: "Sign", exact: true });
    if (!(await ended.isVisible())) await button.click({ timeout: 5000 });
    await expect(ended).toBeVisible({ timeout: 5000 });
  }).toPass({ timeout: 120_000 });
  await ruben.getByLabel("Password", { exact: true }).fill("tallowmere refit");
  await ruben.getByRole("button", { name: "Sign in again" }).click();
  await expect(ruben.getByLabel("Closing remark")).toHaveValue("Typed before the session ended.");
  await ruben.getByRole("button", { name: "Sign", exact: true }).click();
  await expect(ruben.getByRole("heading", { name: "Desk" })).toBeVisible();

  // The monitor has it: strip, form, who signed what when, every event.
  await koa.getByRole("link", { name: "Turnaround" }).click();
  await koa.getByRole("radio", { name: "released" }).click();
  await koa.getByLabel(/^Search number/).fill("first along its own");
  // Until the answer is there the list still shows what it showed.
  await expect(koa.getByRole("button", { name: /^Open PK-/ })).toHaveCount(1);
  await koa.getByRole("button", { name: /^Open PK-/ }).click();
  const signed = koa.getByRole("region", { name: "Form and signatures" });
  await expect(signed).toContainText("Sunniva Pall for Farid Nyholm");
  await expect(signed).toContainText("Typed before the session ended.");
  await expect(koa.getByRole("region", { name: "Every event" })).toContainText("package released");
  await check(koa, "monitor, opened");
});

test("the office's screens change a group, a calendar and a folder, and say what is wrong", async ({ browser }) => {
  test.setTimeout(300_000);
  const koa = await as(browser, "Koa Whitlock");
  await koa.getByRole("link", { name: "Office" }).click();
  await koa.getByRole("button", { name: /^Bettany Orr/ }).click();
  await koa.getByLabel("Time zone").fill("Nowhere/Land");
  await koa.getByRole("button", { name: "Keep" }).click();
  await expect(koa.getByRole("alert")).toContainText("Write it like Europe/Oslo");
  await check(koa, "people");
  await koa.getByRole("link", { name: "Groups and rights" }).click();
  await koa.getByRole("button", { name: "Add a group" }).click();
  await koa.getByLabel("Name", { exact: true }).fill("Foundry");
  await koa.getByRole("checkbox", { name: "Halvard Sime" }).check();
  await koa.getByLabel("Right").selectOption("read");
  await koa.getByLabel("Folder").fill("Mount");
  await koa.getByRole("button", { name: "Give" }).click();
  await koa.getByRole("button", { name: "Add", exact: true }).click();
  await expect(koa.getByRole("heading", { name: "Foundry" })).toBeVisible();
  await check(koa, "groups");
  // What the group may read is there for its member at once, and nothing else.
  const halvard = await as(browser, "Halvard Sime");
  await halvard.getByRole("link", { name: "Register", exact: true }).click();
  await expect(halvard.getByRole("link", { name: "TO-3310" })).toBeVisible();
  await expect(halvard.getByRole("link", { name: "TO-1105" })).toBeHidden();

  await koa.getByRole("link", { name: "Calendars" }).click();
  await koa.getByLabel("Monday, part 1 to").fill("7:15");
  await koa.getByLabel("Monday, part 1 to").blur();
  await koa.getByRole("button", { name: "Keep" }).click();
  await expect(koa.getByRole("alert")).toContainText("Monday: each part of a day ends after it begins");
  await check(koa, "calendars");
  await koa.getByRole("link", { name: "Folders and standings" }).click();
  await koa.getByRole("button", { name: "Add a folder" }).click();
  await koa.getByLabel("Name", { exact: true }).fill("Trial");
  await koa.getByRole("button", { name: "Add", exact: true }).click();
  await expect(koa.getByText("As in the whole register: in work → self-checked → fit for use.")).toBeVisible();
  await check(koa, "folders");
});

test("documents move along their standings from the register, and reading one shows where it stands", async ({
  browser,
}) => {
  test.setTimeout(240_000);
  const bettany = await as(browser, "Bettany Orr");
  await bettany.getByRole("link", { name: "Register" }).click();
  await bettany.getByRole("checkbox", { name: "Pick TO-3302" }).check();
  await bettany.getByRole("button", { name: "Send for use on site" }).click();
  await bettany.getByRole("checkbox", { name: "Farid Nyholm" }).check();
  await bettany.getByLabel("Reason, for the record").fill("To build");
  await bettany.getByRole("dialog").getByRole("button", { name: "Send for use on site" }).click();
  await expect(bettany.getByRole("alert")).toContainText("You have no right to send documents");
  await check(bettany, "send for use");
  await bettany.keyboard.press("Escape");
  await bettany.getByRole("link", { name: "TO-3302" }).click();
  await bettany.getByRole("link", { name: "Read TO-3302" }).click();
  await expect(bettany.getByRole("status").first()).toContainText("Not for use on site");
  await expect(bettany.locator("[data-sharp=true]")).toBeVisible();
  await check(bettany, "reading");
});
