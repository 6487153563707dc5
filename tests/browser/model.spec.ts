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

  // Beside the last draft there is no room for the tree, and all of the model is in view in both.
  await model.focus();
  await page.keyboard.press("Shift+A");
  await page.keyboard.press("f");
  await page.keyboard.press("b");
  await expect(page.getByTestId("model")).toHaveCount(2);
  await expect(page.getByRole("searchbox", { name: "Search the components" })).toBeHidden();
  await page.keyboard.press("b");
  await expect(page.getByTestId("model")).toHaveCount(1);

  // Whoever comes to the note sees what was seen: from the right, the arm alone.
  await page.reload();
  await expect(from).toHaveText("Front, right, above");
  await page.getByText("Seat for the bush stays H7").click();
  await expect(from).toHaveText("Right");
  await expect(page.getByRole("button", { name: "Show everything" })).toBeVisible();
  await expect(page.getByTestId("badge-4")).toBeVisible();
  await page.context().close();
});

test("a model is cut through its shaft, measured flat and taken out as a drawing; its parts are listed, its view is kept", async ({
  browser,
}) => {
  test.slow();
  const page = await as(browser, "Maren");
  await page.getByRole("button", { name: new RegExp(title) }).dblclick();
  const model = page.getByTestId("model");
  const from = page.getByTestId("looks-from");
  await expect(from).toHaveText("Front, right, above");

  // One key cuts across the middle, seen from the front. Along its axis the shaft is 260 by 44 and 120 by 64, less 380 by 16.
  await model.focus();
  await page.keyboard.press("k");
  const sections = page.getByRole("region", { name: "Sections" });
  const shaft = sections.getByRole("row", { name: /Declination shaft/ });
  await expect(shaft).toContainText(/13.040 mm²/);
  await check(page, "model, cut");

  // By typing it is moved out of the shaft, by the handle drawn along, and what is taken away is seen as a ghost.
  const stands = sections.getByRole("textbox", { name: "Stands at" });
  await stands.fill("40");
  await stands.press("Enter");
  await expect(shaft).toBeHidden();
  const handle = (await page.getByTestId("section-handle").boundingBox())!;
  await page.mouse.move(handle.x + 16, handle.y + 16);
  await page.mouse.down();
  await page.mouse.move(handle.x + 66, handle.y - 4, { steps: 4 });
  await page.mouse.up();
  await expect(stands).not.toHaveValue("40");
  await stands.fill("0");
  await stands.press("Enter");
  await expect(shaft).toContainText(/13.040 mm²/);
  await sections.getByRole("button", { name: "Rest as ghost" }).click();
  await shaft.getByRole("button").click();
  await expect(page.getByRole("region", { name: "Picked" })).toContainText("Declination shaft");

  // Laid flat, two presses measure; it goes out as DXF.
  await sections.getByRole("button", { name: "See it flat" }).click();
  const flat = page.getByRole("region", { name: "Section A–A, flat" });
  const sheet = flat.getByRole("application");
  await expect(sheet).toHaveAttribute("data-sharp", "true");
  await sheet.click({ position: { x: 80, y: 200 } });
  await sheet.click({ position: { x: 240, y: 320 } });
  await expect(flat.getByRole("status").first()).toContainText(/ mm · x /);
  await check(page, "section, flat");
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    flat.getByRole("button", { name: "DXF", exact: true }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/section\.dxf$/);
  await flat.getByRole("button", { name: "Back to the model" }).click();

  // The view is kept by name, and is there again when the page is.
  const side = page.getByRole("group", { name: "Side of the model" });
  await model.focus();
  await page.keyboard.press("y");
  await expect(from).toHaveText("Front");
  await side.getByRole("button", { name: "Views" }).click();
  await page.getByRole("textbox", { name: "Name of this view" }).fill("Through the shaft");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  const kept = page.getByRole("list", { name: "Kept views" });
  await expect(kept).toContainText("Through the shaft");
  await page.reload();
  await expect(from).toHaveText("Front, right, above");
  await side.getByRole("button", { name: "Views" }).click();
  await kept.getByRole("button", { name: "Through the shaft", exact: true }).click();
  await expect(from).toHaveText("Front");
  await expect(side.getByRole("button", { name: "Sections 1" })).toBeVisible();
  await kept.getByRole("button", { name: "Remove the view Through the shaft" }).click();
  await expect(kept).toBeEmpty();

  // The parts list: what is picked in it is picked in the model, all of it.
  await model.focus();
  await page.keyboard.press("Shift+K");
  const list = page.getByRole("region", { name: "Parts list" });
  await list.getByRole("combobox", { name: "How deep" }).selectOption("Parts alone");
  const bolt = list.getByRole("row", { name: /Hexagon bolt M5/ });
  await expect(bolt).toContainText("24");
  await bolt.getByRole("button").click();
  await expect(page.getByRole("region", { name: "Picked" })).toContainText("24 components");
  await check(page, "parts list");

  // Taken apart it is not cut; put together it is again.
  await side.getByRole("button", { name: "Parts" }).click();
  await page.getByRole("slider", { name: "Apart" }).fill("1");
  await side.getByRole("button", { name: "Sections 1" }).click();
  await expect(sections).toContainText("A model that is taken apart is not cut.");
  await page.context().close();
});
