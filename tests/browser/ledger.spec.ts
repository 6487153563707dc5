import { expect, test } from "./house";
import { as, check } from "./person";

test("an auditor's question is answered from the ledger, and the chain it stands in is checked", async ({
  browser,
}) => {
  const koa = await as(browser, "Koa Whitlock");
  await koa.getByRole("link", { name: "Ledger", exact: true }).click();
  await expect(koa.getByRole("row").nth(1)).toBeVisible();
  await check(koa, "ledger");

  // Who returned the bearing housing, and when?
  await koa.keyboard.press("/");
  await koa.keyboard.type("pk-0103");
  await koa.getByLabel("Person", { exact: true }).selectOption({ label: "Teodor Quill" });
  // What does not fit has gone, but for the head.
  await expect(koa.getByRole("row").filter({ hasNotText: /PK-0103/ })).toHaveCount(1);
  const returned = koa.getByRole("row").filter({ hasText: "signed, returning" });
  await expect(returned).toHaveCount(1);
  await expect(returned).toContainText("Teodor Quill");
  await expect(returned).toContainText("PK-0103");
  await returned.getByRole("button", { name: /^Open entry/ }).press("Enter");
  await expect(koa.getByText("As recorded", { exact: true })).toBeVisible();
  await koa.getByRole("button", { name: "Check this chain" }).click();
  await expect(koa.getByRole("status").filter({ hasText: "The chain holds." })).toBeVisible();
  await check(koa, "an entry");
  await koa.getByRole("button", { name: "Show this chain only" }).click();
  await koa.getByLabel("Person", { exact: true }).selectOption("");
  await expect(koa.getByRole("row").last()).toContainText("package sent");

  // The office's acts are for administrators.
  const teodor = await as(browser, "Teodor Quill");
  await teodor.goto("/ledger");
  await expect(teodor.getByRole("radio", { name: "plans" })).toBeVisible();
  await expect(teodor.getByRole("radio", { name: "office" })).toBeHidden();
  await teodor.getByRole("radio", { name: "plans" }).click();
  await expect(teodor.getByRole("row").nth(1)).toContainText("plan published");
  // Who may build no plans is not led to one.
  await expect(teodor.getByRole("row").nth(1).getByRole("link")).toHaveCount(0);
  await koa.goto("/ledger?subject=plan");
  await expect(koa.getByRole("row").nth(1).getByRole("link")).toHaveAttribute("href", /^\/plans\//);
  // Days are the reader's own; a day on which nothing happened says so.
  await teodor.getByLabel("to", { exact: true }).fill("2020-01-01");
  await expect(teodor.getByText("No entry fits")).toBeVisible();
  // What an address names that is no day narrows nothing.
  await teodor.goto("/ledger?from=never&until=9999-12-31");
  await expect(teodor.getByRole("row").nth(1)).toBeVisible();
  await expect(teodor.getByLabel("from", { exact: true })).toHaveValue("");
});
