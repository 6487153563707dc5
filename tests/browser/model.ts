import { expect, type Page } from "./house";

export const title = "Fork mount with its arm";

export async function openModel(page: Page) {
  await page.getByRole("button", { name: new RegExp(title) }).dblclick();
  await expect(page.getByTestId("looks-from")).toHaveText("Front, right, above");
}

/** The one arm alone, from the right: all of 390 by 180 mm is in view, and a margin. Gives how many pixels a millimetre has. */
export async function armFromTheRight(page: Page) {
  const model = page.getByTestId("model");
  await page.getByRole("searchbox", { name: "Search the components" }).fill("fork arm");
  await page.getByRole("button", { name: "TO-3311 Fork arm", exact: true }).first().press("Enter");
  await page.getByRole("region", { name: "Picked" }).getByRole("button", { name: "Only this (I)" }).press("Enter");
  await model.focus();
  await page.keyboard.press("x");
  await expect(page.getByTestId("looks-from")).toHaveText("Right");
  const box = (await model.boundingBox())!;
  const scale = Math.min(box.height / (390 * 1.15), box.width / (180 * 1.15));
  return { box, scale };
}
