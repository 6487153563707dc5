import { expect, test } from "./house";
import { as, check } from "./person";

const title = "Fork mount with its arm";

test("a model is turned, taken apart and measured, a request is pinned to its bore and leads back to what was seen", async ({
  browser,
}) => {
  test.slow();
  const page = await as(browser, "Maren");
  await page.getByRole("button", { name: new RegExp(title) }).dblclick();
  const model = page.getByTestId("model");
  const from = page.getByTestId("looks-from");
  await expect(from).toHaveText("Front, right, above");
  // What was asked in round 1 lies on this draft too.
  await expect(page.getByTestId("badge-1")).toBeVisible();
  await check(page, "model");

  // By key it is turned, and looked at from the standing directions.
  await model.focus();
  await page.keyboard.press("z");
  await expect(from).toHaveText("Top");
  await page.keyboard.press("ArrowDown");
  await expect(from).toHaveText("Front, above");

  // The tree finds an arm; all else is left out, and it is looked at from the right.
  await page.getByRole("searchbox", { name: "Search the components" }).fill("fork arm");
  await expect(page.getByText("2 found")).toBeVisible();
  await page.getByRole("button", { name: "Fork arm", exact: true }).first().click();
  const picked = page.getByRole("region", { name: "Picked" });
  await expect(picked).toContainText("EN-GJS-400-15");
  await expect(picked).toContainText("exact");
  await picked.getByRole("button", { name: "Only this (I)" }).click();
  await model.focus();
  await page.keyboard.press("x");
  await expect(from).toHaveText("Right");

  // The rim of the bore: 31 mm beside its middle, which lies 105 above that of the arm. All of 390 mm is in view, and a margin.
  const box = (await model.boundingBox())!;
  const scale = Math.min(box.height / (390 * 1.15), box.width / (180 * 1.15));
  const rim = { x: box.width / 2 + 31 * scale, y: box.height / 2 - 105 * scale };
  await model.click({ position: rim });
  await expect(picked).toContainText("Ø 62.000 mm");
  await expect(picked).toContainText("exact");
  await check(page, "model, picked");

  // With Shift the foot besides: how its edge lies to the bore's axis.
  const foot = { x: box.width / 2, y: box.height / 2 + 195 * scale };
  await model.click({ position: foot, modifiers: ["Shift"] });
  await expect(picked).toContainText("axis to edge");
  await expect(picked).toContainText("300.000 mm");
  await expect(picked).toContainText("90.000°");
  await model.click({ position: rim });
  await expect(picked).toContainText("Ø 62.000 mm");

  await model.focus();
  await page.keyboard.press("Enter");
  await page
    .getByRole("textbox", { name: "Words of the note" })
    .fill("Seat for the bush stays H7 after the bore grew.");
  await page.getByRole("button", { name: "Add request" }).click();
  await expect(page.getByTestId("badge-4")).toBeVisible();

  // Whoever comes to the note sees what was seen: from the right, the arm alone.
  await page.reload();
  await expect(from).toHaveText("Front, right, above");
  await page.getByText("Seat for the bush stays H7").click();
  await expect(from).toHaveText("Right");
  await expect(page.getByRole("button", { name: "Show everything" })).toBeVisible();
  await expect(page.getByTestId("badge-4")).toBeVisible();
  await page.context().close();
});
