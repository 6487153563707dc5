import { expect, test } from "./house";
import { armFromTheRight, openModel, title } from "./model";
import { as, check } from "./person";

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
  await expect(page.getByTestId("badge-1")).not.toHaveAttribute("aria-label", /not surely found/);
  await check(page, "model");

  // What lies behind something is told and shown as hidden: the bore behind the disc, the cover's side from the other one.
  const hidden = /behind what is shown/;
  await expect(page.getByTestId("badge-1")).toHaveAttribute("aria-label", hidden);
  await expect(page.getByTestId("badge-2")).not.toHaveAttribute("aria-label", hidden);
  await model.focus();
  await page.keyboard.press("Shift+X");
  await expect(from).toHaveText("Left");
  await expect(page.getByTestId("badge-2")).toHaveAttribute("aria-label", hidden);

  // By key it is turned, and looked at from the standing directions.
  await page.keyboard.press("z");
  await expect(from).toHaveText("Top");
  await page.keyboard.press("ArrowDown");
  await expect(from).toHaveText("Front, above");

  // The tree finds an arm; all else is left out, and it is looked at from the right.
  await page.getByRole("searchbox", { name: "Search the components" }).fill("fork arm");
  await expect(page.getByText("2 found")).toBeVisible();
  await page.getByRole("button", { name: "TO-3311 Fork arm", exact: true }).first().click();
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
  // Kept, it lies on the section whenever that is laid flat, and on the model between the parts that were cut.
  await page.keyboard.press("m");
  await expect(flat.getByTestId("kept-on-flat")).toContainText(" mm");
  const words = (await flat.getByTestId("kept-on-flat").textContent())!;
  await expect(flat.getByRole("button", { name: /Keep the measure/ })).toHaveCount(0);
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    flat.getByRole("button", { name: "DXF", exact: true }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(/section\.dxf$/);
  await flat.getByRole("button", { name: "Back to the model" }).click();
  await expect(page.getByTestId("kept-measure")).toHaveText(words);
  await sections.getByRole("button", { name: "See it flat" }).click();
  await expect(flat.getByTestId("kept-on-flat")).toHaveText(words);
  await flat.getByRole("button", { name: "Back to the model" }).click();
  await model.focus();
  await page.keyboard.press("Control+z");
  await expect(page.getByTestId("kept-measure")).toHaveCount(0);

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

test("a measure is kept on a part, a cloud is drawn on a view and brings that view back; both are undone", async ({
  browser,
}) => {
  test.slow();
  const page = await as(browser, "Maren");
  await openModel(page);
  const model = page.getByTestId("model");
  const from = page.getByTestId("looks-from");
  const { box, scale } = await armFromTheRight(page);
  const rim = { x: box.width / 2 + 31 * scale, y: box.height / 2 - 105 * scale };

  // The bore's diameter, and from its axis to the foot.
  const kept = page.getByTestId("kept-measure");
  await model.click({ position: rim });
  await expect(page.getByRole("region", { name: "Picked" })).toContainText("Ø 62.000 mm");
  await model.focus();
  await page.keyboard.press("m");
  await expect(kept).toHaveText(["Ø 62.000 mm"]);
  await model.click({ position: rim });
  await model.click({ position: { x: box.width / 2, y: box.height / 2 + 195 * scale }, modifiers: ["Shift"] });
  await expect(page.getByRole("region", { name: "Picked" })).toContainText("300.000 mm");
  await model.focus();
  await page.keyboard.press("m");
  await expect(kept).toHaveText(["Ø 62.000 mm", "300.000 mm"]);
  await check(page, "model with measures");

  // A cloud with a remark on this view, and a line of the pen.
  const at = (dx: number, dy: number) => [box.x + box.width / 2 + dx, box.y + box.height / 2 + dy] as const;
  await model.focus();
  await page.keyboard.press("Escape");
  await page.keyboard.press("c");
  await page.mouse.move(...at(-60, 30));
  await page.mouse.down();
  await page.mouse.move(...at(60, 120), { steps: 5 });
  await page.mouse.up();
  await page.getByRole("radio", { name: "Remark" }).click();
  await page.getByRole("textbox", { name: "Words of the note" }).fill("The window might be wider here.");
  await page.getByRole("button", { name: "Add remark" }).click();
  const badge = page.getByRole("button", { name: /The window might be wider here/ }).first();
  await expect(badge).toBeVisible();
  const drawn = page.getByTestId("markups").locator("g");
  await expect(drawn).toHaveCount(1);
  await model.focus();
  await page.keyboard.press("d");
  await page.mouse.move(...at(-50, -20));
  await page.mouse.down();
  await page.mouse.move(...at(50, -30), { steps: 8 });
  await page.mouse.up();
  await expect(drawn).toHaveCount(2);

  // From elsewhere nothing of it is seen; moved and neared it stays where it was drawn. The measures go with the part.
  await model.focus();
  await page.keyboard.press("y");
  await expect(from).toHaveText("Front");
  await expect(drawn).toHaveCount(0);
  await expect(kept.first()).toBeVisible();
  await page.getByRole("complementary").getByText("The window might be wider here.").click();
  await expect(from).toHaveText("Right");
  await expect(drawn).toHaveCount(2);
  await model.focus();
  await page.keyboard.press("+");
  await expect(drawn).toHaveCount(2);

  // What was kept is there when the page is, and is erased by key.
  await page.reload();
  await expect(kept).toHaveCount(2);
  await kept.first().click();
  await model.focus();
  await page.keyboard.press("Delete");
  await expect(kept).toHaveText(["300.000 mm"]);
  await page.keyboard.press("Control+z");
  await expect(kept).toHaveCount(2);
  for (const one of [0, 0]) {
    await kept.nth(one).click();
    await model.focus();
    await page.keyboard.press("Delete");
  }
  await expect(kept).toHaveCount(0);
  await page.context().close();
});

test("a drawing leads to the model that shows it and its items to the parts; components are tinted by what is known of them", async ({
  browser,
}) => {
  test.slow();
  const page = await as(browser, "Maren");
  // What could not be fetched is not said to be nothing.
  const known = /\/leaves\/\d+\/data/;
  await page.route(known, (route) => route.abort());
  await openModel(page);
  const side = page.getByRole("group", { name: "Side of the model" });
  await side.getByRole("button", { name: "Data" }).click();
  const panel = page.getByRole("region", { name: "By data" });
  await expect(panel.getByRole("alert")).toContainText("could not be fetched");
  await expect(panel).not.toContainText("No document of the register");
  await page.unroute(known);
  await panel.getByRole("button", { name: "Load again" }).click();
  await expect(panel.getByRole("alert")).toHaveCount(0);
  await page.getByLabel("Tint by").selectOption("Material");
  const legend = page.getByRole("list", { name: "Legend: Material" });
  await expect(legend.getByRole("button", { name: /^EN-GJS-400-15/ })).toContainText("4");
  await legend.getByRole("button", { name: /^EN-GJS-400-15/ }).click();
  await expect(legend.getByRole("button", { name: /^EN-GJS-400-15/ })).toHaveAttribute("aria-pressed", "true");
  await legend.getByRole("button", { name: /^CuSn12/ }).click({ modifiers: ["Shift"] });
  await expect(page.getByRole("region", { name: "Picked" })).toContainText("2 components");
  await check(page, "model by data");
  await page.getByLabel("Tint by").selectOption("Change order");
  const orders = page.getByRole("list", { name: "Legend: Change order" });
  await expect(orders.getByRole("button", { name: /^CO-0031/ })).toBeVisible();

  // Words are found in the model: what they name is picked.
  await page.getByRole("button", { name: "Find" }).click();
  await page.getByRole("searchbox", { name: "Words to find" }).fill("encoder");
  await page.getByRole("button", { name: /Encoder disc/ }).click();
  await expect(page.getByRole("region", { name: "Picked" })).toContainText("Encoder disc");
  await page.getByRole("button", { name: "Close finding" }).click();

  // Back and forth between the drawing of the arm and the arm.
  await page.getByRole("button", { name: "Next item" }).click();
  await page.getByRole("button", { name: "In TO-3300" }).click();
  const picked = page.getByRole("region", { name: "Picked" });
  await expect(picked).toContainText("2 components");
  const sheet = (await page.locator("#sheet").boundingBox())!;
  // To the parts list, in the lower right of the sheet.
  await page.locator("#sheet").focus();
  const item = page.getByRole("button", { name: "Pick TO-3314 in the model" }).first();
  for (let i = 0; i < 12 && !(await item.isVisible()); i++) {
    await page.mouse.move(sheet.x + sheet.width * 0.72, sheet.y + sheet.height * 0.6);
    await page.mouse.wheel(0, -240);
    await page.waitForTimeout(150);
  }
  await item.dispatchEvent("click");
  await expect(item).toHaveAttribute("aria-pressed", "true");
  await expect(picked).toContainText("2 components");
  await check(page, "drawing and model");

  // What no number says a person does, and takes back.
  await page.getByRole("button", { name: "Models that show this" }).click();
  await page.getByRole("searchbox", { name: "Relate another model" }).fill("lifting");
  await page.getByRole("button", { name: /Lifting eye/ }).click();
  await expect(page.getByText("said to show it")).toBeVisible();
  await page.getByRole("button", { name: /^Take .* away$/ }).click();
  await expect(page.getByText("said to show it")).toHaveCount(0);
  await page.keyboard.press("Escape");
  await page.context().close();
});
