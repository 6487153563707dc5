import { expect, test, type Page } from "./house";
import { readFile } from "node:fs/promises";
import { as, check } from "./person";

/** What a column shows, row by row. */
async function column(page: Page, title: string): Promise<string[]> {
  await expect(page.locator("tbody tr").first()).toBeVisible();
  const heads = await page.getByRole("columnheader").allInnerTexts();
  const at = heads.findIndex((h) => h.toLowerCase() === title.toLowerCase());
  expect(at, `there is a column ${title} among ${heads.join(", ")}`).toBeGreaterThan(-1);
  return page.locator(`tbody tr td:nth-child(${at + 1})`).allInnerTexts();
}

/** The lines of the file that the list on this page gives. */
async function file(page: Page): Promise<string[]> {
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "CSV" }).click(),
  ]);
  return (await readFile(await download.path(), "utf8")).trim().split("\r\n");
}

test("the register is filtered, sorted, its columns chosen, kept as a view, and taken along as a file", async ({
  browser,
}) => {
  test.setTimeout(240_000);
  const koa = await as(browser, "Koa Whitlock");
  await koa.getByRole("link", { name: "Register" }).click();
  const numbers = await column(koa, "Number");
  expect(numbers).toEqual([...numbers].sort());
  const head = (name: string) => koa.getByRole("columnheader", { name });
  await head("Title").getByRole("button").click();
  await expect(head("Title")).toHaveAttribute("aria-sort", "ascending");
  // Whatever else was registered meanwhile.
  const { compare } = new Intl.Collator("en");
  const rising = (titles: string[]) =>
    titles.length > 5 && titles.every((t, i) => i === 0 || compare(titles[i - 1]!, t) <= 0);
  await expect.poll(() => column(koa, "Title").then(rising)).toBe(true);
  await head("Title").getByRole("button").click();
  await expect.poll(() => column(koa, "Title").then((t) => rising(t.reverse()))).toBe(true);

  await koa.getByRole("button", { name: "Columns" }).click();
  await koa.getByRole("checkbox", { name: "Folder" }).check();
  await koa.getByRole("checkbox", { name: "Changed" }).uncheck();
  await expect(koa.getByRole("checkbox", { name: "Number", exact: true })).toBeDisabled();
  await check(koa, "columns");
  await koa.keyboard.press("Escape");
  await expect(head("Folder")).toBeVisible();
  await expect(head("Changed")).toBeHidden();
  await koa.getByLabel("Discipline").selectOption("Mechanical");
  await koa.getByLabel("Find in the register").fill("to-33");
  await expect.poll(() => column(koa, "Number").then((n) => n.every((x) => x.startsWith("TO-33")))).toBe(true);

  await koa.getByRole("button", { name: "Views" }).click();
  await koa.getByLabel("Name of the view").fill("Mount, by title");
  await koa.keyboard.press("Enter");
  await expect(koa.getByRole("button", { name: "Mount, by title", exact: true }).last()).toBeVisible();
  await check(koa, "views");
  await koa.keyboard.press("Escape");
  const kept = await column(koa, "Number");
  const lines = await file(koa);
  expect(lines[0]!.replace("﻿", "")).toBe("Number,Title,Discipline,Folder,Revision,Standing,Originator");
  expect(lines.slice(1).map((l) => l.split(",")[0])).toEqual(kept);

  // The filters go, the order and the columns stay; the view brings everything back, the words typed as well.
  await koa.getByRole("button", { name: "Clear the filters" }).click();
  await expect(koa.getByLabel("Find in the register")).toHaveValue("");
  await expect(head("Folder")).toBeVisible();
  await expect(head("Title")).toHaveAttribute("aria-sort", "descending");
  await koa.getByRole("link", { name: "Desk" }).click();
  await koa.getByRole("link", { name: "Register" }).click();
  await expect(head("Changed")).toBeVisible();
  await koa.getByRole("button", { name: "Views" }).click();
  await koa.getByRole("button", { name: "Mount, by title", exact: true }).click();
  await expect(koa.getByLabel("Find in the register")).toHaveValue("to-33");
  await expect.poll(() => column(koa, "Number")).toEqual(kept);
  // A document opens beside the list as it stands, and the list is still the same when it closes.
  await koa.getByRole("link", { name: kept[0], exact: true }).click();
  await expect(koa.getByRole("complementary")).toContainText("Ledger");
  await koa.getByRole("button", { name: "Close" }).click();
  await expect.poll(() => column(koa, "Number")).toEqual(kept);
  // The way back leads past the document and the view to the list as it was.
  for (let i = 0; i < 3; i++) await koa.goBack();
  await expect(koa.getByLabel("Find in the register")).toHaveValue("");

  await koa.getByRole("button", { name: "Views" }).click();
  // However long the removal takes, what is undone meanwhile is undone after it.
  await koa.route("**/api/views/register*", async (route) => {
    if (route.request().method() === "DELETE") await new Promise((answer) => setTimeout(answer, 1500));
    await route.continue();
  });
  await koa.getByRole("button", { name: "Remove the view Mount, by title" }).click();
  const isKept = koa.waitForResponse((r) => r.request().method() === "PUT" && r.url().includes("/views/"));
  await koa.getByRole("button", { name: "Undo" }).click();
  await isKept;
  await koa.unroute("**/api/views/register*");
  await koa.getByRole("button", { name: "Views" }).press("Escape");
  await koa.reload();
  await koa.getByRole("button", { name: "Views" }).click();
  await expect(koa.getByRole("button", { name: "Mount, by title", exact: true })).toBeVisible();
  await koa.getByRole("button", { name: "Remove the view Mount, by title" }).click();
  await expect(koa.getByText("is removed")).toBeVisible();
  await koa.keyboard.press("Escape");
});

test("desk and plans are searched as well, and the slash leads to the search", async ({ browser }) => {
  const teodor = await as(browser, "Teodor Quill");
  const row = (title: string) => teodor.getByRole("button", { name: new RegExp(title) });
  await expect(row("Bearing housing to G7 seals")).toBeVisible();
  // By what is asked, and in another order; both stand in the address.
  const rows = teodor.locator("[data-row]");
  await teodor.getByLabel("Order").selectOption("by number");
  const numbers = (await rows.allInnerTexts()).map((words) => /PK-\d+/.exec(words)![0]);
  expect(numbers.length).toBeGreaterThan(1);
  await teodor.getByLabel("What is asked").selectOption("to answer");
  await expect(teodor.getByText("No package on your desk fits")).toBeVisible();
  await teodor.getByLabel("What is asked").selectOption("to sign");
  await expect(row("Bearing housing to G7 seals")).toBeVisible();
  const toSign = (await rows.allInnerTexts()).map((words) => /PK-\d+/.exec(words)![0]);
  expect(toSign).toEqual([...toSign].sort());
  await expect(teodor).toHaveURL(/group=To\+sign.*order=number|order=number.*group=To\+sign/);
  await teodor.getByLabel("What is asked").selectOption("everything");
  await teodor.getByLabel("Order").selectOption("due first");
  await teodor.keyboard.press("Escape");
  await teodor.getByRole("heading", { name: "Desk" }).focus();
  await teodor.keyboard.press("/");
  await teodor.keyboard.type("g7 bearing /");
  await expect(teodor.getByLabel("Find on the desk")).toHaveValue("g7 bearing /");
  await expect(teodor.getByText("No package on your desk fits")).toBeVisible();
  await check(teodor, "desk, nothing found");
  await teodor.keyboard.press("Backspace");
  await expect(row("Bearing housing to G7 seals")).toBeVisible();
  // On the bench and back again: the desk is still searched.
  await row("Bearing housing to G7 seals").dblclick();
  await expect(teodor.getByRole("heading", { name: "Bearing housing to G7 seals" })).toBeVisible();
  await teodor.goBack();
  await expect(teodor.getByLabel("Find on the desk")).toHaveValue("g7 bearing ");
  // By the change order that a package carries out.
  await teodor.getByLabel("Find on the desk").fill("co-0027");
  await expect(rows).toHaveCount(1);
  await expect(row("Bearing housing to G7 seals")).toBeVisible();
  await teodor.getByRole("link", { name: "Plans" }).click();
  await teodor.getByLabel("Find a plan").fill("mount");
  await expect(teodor.getByRole("main").getByRole("listitem")).toHaveCount(1);
  await teodor.getByLabel("Find a plan").fill("no plan of this name");
  await expect(teodor.getByText("No plan fits")).toBeVisible();
});

test("the monitor is sorted and taken along; the post is searched", async ({ browser }) => {
  test.setTimeout(600_000);
  const koa = await as(browser, "Koa Whitlock");
  await koa.getByRole("link", { name: "Turnaround" }).click();
  await koa.getByRole("radio", { name: "all" }).click();
  await koa.getByRole("columnheader", { name: "Package" }).getByRole("button").click();
  const titles = async () => (await column(koa, "Package")).map((t) => t.split("\n")[0]!);
  await expect
    .poll(async () => {
      const shown = await titles();
      return shown.length > 1 && shown.join() === [...shown].sort((a, b) => a.localeCompare(b)).join();
    })
    .toBe(true);
  const shown = await titles();
  const lines = await file(koa);
  expect(lines).toHaveLength(shown.length + 1);

  await koa.getByRole("link", { name: "Post" }).click();
  const rows = koa.getByRole("main").getByRole("listitem");
  await expect(rows.first()).toBeVisible();
  const all = await rows.count();
  await koa.getByLabel("Find in the post").fill("released fork");
  await expect(rows).not.toHaveCount(all);
  for (const text of await rows.allInnerTexts()) expect(text.toLowerCase()).toMatch(/released|fork/);
  await koa.getByLabel("Find in the post").fill("no such words");
  await expect(koa.getByText("No message fits")).toBeVisible();
  await check(koa, "post, nothing found");
  await koa.getByRole("button", { name: "Clear the filters" }).click();
  await expect(rows).toHaveCount(all);
});

test("filters that are cleared while words are still typed do not come back by themselves", async ({ browser }) => {
  const koa = await as(browser, "Koa Whitlock");
  await koa.goto("/post?unread=true");
  await expect(koa.getByRole("button", { name: "Clear the filters" })).toBeVisible();
  // In one breath: no hand is as quick as a pause of typing is short.
  await koa.getByLabel("Find in the post").evaluate((box: HTMLInputElement) => {
    box.focus();
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!.call(box, "no such words");
    box.dispatchEvent(new Event("input", { bubbles: true }));
    const clear = [...document.querySelectorAll("button")].find((b) => b.textContent === "Clear the filters")!;
    clear.focus();
    clear.click();
  });
  await expect(koa.getByLabel("Find in the post")).toHaveValue("");
  await koa.waitForTimeout(700);
  await expect(koa.getByLabel("Find in the post")).toHaveValue("");
  expect(new URL(koa.url()).search).toBe("");
});
