import { expect, test } from "./house";
import { as, check } from "./person";

test("two at one group and one person: what each changed lies on top of what the other did, and nothing is undone", async ({
  browser,
}) => {
  const koa = await as(browser, "Koa Whitlock");
  const other = await as(browser, "Koa Whitlock");
  await koa.goto("/office/groups");
  await koa.getByRole("button", { name: "Add a group" }).click();
  await koa.getByLabel("Name", { exact: true }).fill("Night shift");
  await koa.getByLabel("Right").selectOption("read");
  await koa.getByRole("button", { name: "Give" }).click();
  await koa.getByRole("button", { name: "Add", exact: true }).click();
  await expect(koa.getByRole("heading", { name: "Night shift" })).toBeVisible();
  await expect(koa.getByRole("button", { name: /^Take away/ })).toHaveCount(1);
  await other.goto(new URL(koa.url()).pathname + new URL(koa.url()).search);

  const unkept = /What you changed here is not kept yet/;
  const overtaken = /Somebody else changed this since you began/;
  await koa.getByRole("checkbox", { name: "Halvard Sime" }).check();
  await expect(koa.getByText(unkept)).toBeVisible();
  await other.getByRole("checkbox", { name: "Bettany Orr" }).check();
  await other.getByRole("button", { name: /^Take away/ }).click();
  await other.getByRole("button", { name: "Keep" }).click();
  await expect(other.getByText("Kept.")).toBeVisible();
  await expect(other.getByText(unkept)).toBeHidden();
  await expect(koa.getByText(overtaken)).toBeVisible();
  await check(koa, "a group that somebody else changed meanwhile");
  await koa.getByRole("button", { name: "Keep" }).click();
  await expect(koa.getByText(overtaken)).toBeHidden();
  for (const page of [koa, other]) {
    await expect(page.getByRole("checkbox", { name: "Halvard Sime" })).toBeChecked();
    await expect(page.getByRole("checkbox", { name: "Bettany Orr" })).toBeChecked();
    await expect(page.getByRole("button", { name: /^Take away/ })).toHaveCount(0);
  }

  // A page that has not heard of it is told, and its change waits on top.
  await koa.goto("/office/people");
  await koa.getByRole("button", { name: /^Halvard Sime/ }).click();
  await other.goto("/office/people");
  await other.getByRole("button", { name: /^Halvard Sime/ }).click();
  await expect(other.getByLabel("Initials")).toHaveValue("HS");
  await other.route("**/api/people", (route) =>
    route.request().method() === "GET" ? route.abort() : route.continue(),
  );
  await koa.getByLabel("Initials").fill("HSI");
  await koa.getByRole("button", { name: "Keep" }).click();
  await expect(koa.getByText("Kept.")).toBeVisible();
  await expect(koa.getByText(unkept)).toBeHidden();
  await other.getByLabel("What they do").fill("Foundry, night shift");
  await other.getByRole("button", { name: "Keep" }).click();
  await expect(other.getByRole("alert").filter({ hasText: "Somebody else changed this person" })).toBeVisible();
  await other.unroute("**/api/people");
  await other.reload();
  await expect(other.getByLabel("Initials")).toHaveValue("HSI");
  await expect(other.getByLabel("What they do")).toHaveValue("Foundry, night shift");
  await other.getByRole("button", { name: "Keep" }).click();
  await expect(other.getByText("Kept.")).toBeVisible();
  await expect(koa.getByLabel("What they do")).toHaveValue("Foundry, night shift");
});

test("a calendar's days and a folder's standings are kept together with what was done to them elsewhere", async ({
  browser,
}) => {
  const koa = await as(browser, "Koa Whitlock");
  await koa.goto("/office/calendars");
  await koa.getByRole("button", { name: "Add a calendar" }).click();
  await koa.getByLabel("Name", { exact: true }).fill("Foundry's");
  await koa.getByRole("button", { name: "Add", exact: true }).click();
  await expect(koa.getByRole("heading", { name: "Foundry's" })).toBeVisible();
  const other = await as(browser, "Koa Whitlock");
  await other.goto(new URL(koa.url()).pathname + new URL(koa.url()).search);
  await koa.getByLabel("Monday, part 1 to").fill("11:30");
  await koa.getByLabel("Monday, part 1 to").blur();
  await other.getByLabel("Tuesday, part 1 to").fill("11:45");
  await other.getByLabel("Tuesday, part 1 to").blur();
  await other.getByRole("button", { name: "Keep" }).click();
  await expect(other.getByText("Kept.")).toBeVisible();
  await expect(koa.getByText(/Somebody else changed this since you began/)).toBeVisible();
  await koa.getByRole("button", { name: "Keep" }).click();
  await expect(koa.getByText("Kept.")).toBeVisible();
  for (const page of [koa, other]) {
    await expect(page.getByLabel("Monday, part 1 to")).toHaveValue("11:30");
    await expect(page.getByLabel("Tuesday, part 1 to")).toHaveValue("11:45");
  }

  // Standings that were begun go along when their folder gets another name.
  await koa.goto("/office/folders");
  await koa.getByRole("button", { name: "Add a folder" }).click();
  await koa.getByLabel("Name", { exact: true }).fill("Castings");
  await koa.getByRole("button", { name: "Add", exact: true }).click();
  await koa.getByRole("button", { name: "Give it standings of its own" }).click();
  await koa.getByLabel("Name of standing 2").fill("poured");
  await koa.getByLabel(/^Path/).fill("Castings and forgings");
  await koa.getByRole("button", { name: "Move", exact: true }).click();
  await expect(koa.getByRole("heading", { name: "Castings and forgings" })).toBeVisible();
  await expect(koa.getByLabel("Name of standing 2")).toHaveValue("poured");
  await expect(koa.getByText(/What you changed here is not kept yet/)).toBeVisible();
  await koa.getByRole("button", { name: "Keep the standings" }).click();
  await expect(koa.getByText("Kept.")).toBeVisible();
  await koa.reload();
  await expect(koa.getByLabel("Name of standing 2")).toHaveValue("poured");
  await expect(koa.getByText(/What you changed here is not kept yet/)).toBeHidden();
});
