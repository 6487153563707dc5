import type { Page } from "@playwright/test";
import { expect, test } from "./house";
import { as, check, openBench, readyToDraw } from "./person";

const title = "Bearing housing to G7 seals";

/** Where a person's own markups lie, by what the server says. */
const lying = (page: Page, draft: string) =>
  page.evaluate(async (id) => {
    const all = (await (await fetch(`/api/drafts/${id}/overlays`)).json()) as {
      overlays: { name: string; ownerName: string; markups: { shape: { from: { x: number; y: number } } }[] }[];
    };
    return all.overlays.map((o) => ({
      who: o.ownerName,
      name: o.name,
      count: o.markups.length,
      at: o.markups.map((m) => m.shape.from.x),
    }));
  }, draft);

async function draw(page: Page, key: "c" | "a", from: [number, number], to: [number, number]) {
  await readyToDraw(page);
  await page.keyboard.press(key);
  await drag(page, from, to);
}

async function drag(page: Page, from: [number, number], to: [number, number]) {
  const box = (await page.getByRole("application").boundingBox())!;
  await page.mouse.move(box.x + from[0], box.y + from[1]);
  await page.mouse.down();
  await page.mouse.move(box.x + (from[0] + to[0]) / 2, box.y + (from[1] + to[1]) / 2);
  await page.mouse.move(box.x + to[0], box.y + to[1]);
  await page.mouse.up();
}

test("a markup is drawn, moved, reshaped, undone and erased; others see it at once; a dead line loses nothing", async ({
  browser,
  house,
}) => {
  test.setTimeout(240_000);
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, title);
  const draft = house.rows(
    `SELECT i.draft_id FROM package k JOIN package_item i ON i.package_id = k.id AND i.round = k.round WHERE k.title = '${title}' ORDER BY i.position LIMIT 1`,
  )[0]!;
  const mine = async () => (await lying(teodor, draft)).find((o) => o.who === "Teodor Quill");
  const koa = await as(browser, "Koa Whitlock");
  await koa.goto(teodor.url());
  await expect(koa.locator("[data-sharp=true]")).toBeVisible();
  const before = await koa.getByTestId("markups").locator("path").count();

  // Without words it stands for itself, at once on everybody's screen.
  await draw(teodor, "c", [300, 200], [420, 280]);
  await expect(teodor.getByRole("button", { name: "Add request" })).toBeVisible();
  await check(teodor, "a note being written");
  await teodor.getByRole("button", { name: "Keep without words" }).click();
  await expect.poll(async () => (await mine())?.count).toBe(1);
  await expect.poll(() => koa.getByTestId("markups").locator("path").count()).toBe(before + 1);
  const first = (await mine())!.at[0]!;

  // Taken by its line and moved; by its corner and reshaped; both undone and done again.
  await drag(teodor, [360, 200], [400, 240]);
  await expect.poll(async () => (await mine())!.at[0]! > first).toBe(true);
  const second = (await mine())!.at[0]!;
  await drag(teodor, [340, 240], [320, 230]);
  await expect.poll(async () => (await mine())!.at[0]! < second).toBe(true);
  await teodor.keyboard.press("Control+z");
  await expect.poll(async () => (await mine())!.at[0]).toBe(second);
  await teodor.getByRole("button", { name: "Undo" }).click();
  await expect.poll(async () => (await mine())!.at[0]).toBe(first);
  await teodor.keyboard.press("Control+Shift+z");
  await expect.poll(async () => (await mine())!.at[0]).toBe(second);

  // By the keyboard: moved, and one undo takes the whole way back.
  await teodor.getByRole("application").focus();
  for (let i = 0; i < 4; i++) await teodor.keyboard.press("ArrowRight");
  await expect.poll(async () => (await mine())!.at[0]! > second).toBe(true);
  await teodor.keyboard.press("Control+z");
  await expect.poll(async () => (await mine())!.at[0]).toBe(second);

  // Another overlay is named and drawn on; others' are switched off.
  await teodor.getByRole("button", { name: /^Overlays/ }).click();
  await check(teodor, "the overlays");
  await teodor.getByLabel("Name of a new overlay").fill("Dimensions");
  await teodor.getByRole("button", { name: "Add", exact: true }).click();
  await expect(teodor.getByRole("checkbox", { name: /Dimensions/ })).toBeVisible();
  await teodor
    .getByRole("button", { name: /^Change / })
    .last()
    .click();
  await teodor.getByLabel("Name of the overlay").press("Escape");
  await expect(teodor.getByRole("checkbox", { name: /Dimensions/ })).toBeVisible();
  await teodor.keyboard.press("Escape");
  await draw(teodor, "a", [520, 300], [600, 360]);
  await teodor.getByRole("button", { name: "Keep without words" }).click();
  await expect
    .poll(async () =>
      (await lying(teodor, draft)).filter((o) => o.who === "Teodor Quill").map((o) => [o.name, o.count]),
    )
    .toEqual([
      ["Marks", 1],
      ["Dimensions", 1],
    ]);
  await teodor.getByRole("button", { name: /^Overlays/ }).click();
  await teodor.getByRole("button", { name: "Plain sheet" }).click();
  await expect(teodor.getByTestId("markups").locator("path")).toHaveCount(0);
  await teodor.getByRole("button", { name: "Show all" }).click();
  await teodor.keyboard.press("Escape");

  // Without a line it goes on; what was drawn arrives when there is one.
  await teodor.context().setOffline(true);
  await drag(teodor, [560, 330], [600, 330]);
  await expect(teodor.getByText("The server cannot be reached. What you drew is kept by this browser")).toBeVisible();
  // Wherever the keys are on the bench, if nothing is typed there.
  await teodor.getByRole("button", { name: /^Overlays/ }).focus();
  await teodor.keyboard.press("Delete");
  await expect(teodor.getByTestId("markups").locator("path")).toHaveCount(before + 1);
  await teodor.context().setOffline(false);
  await expect
    .poll(async () => (await lying(teodor, draft)).find((o) => o.name === "Dimensions")?.count, { timeout: 60_000 })
    .toBe(0);
  await expect(teodor.getByText("The server cannot be reached.")).toBeHidden();
  await teodor.keyboard.press("Control+z");
  await expect.poll(async () => (await lying(teodor, draft)).find((o) => o.name === "Dimensions")?.count).toBe(1);

  // A note with a second place, on another item; and one about the whole.
  await draw(teodor, "c", [300, 420], [380, 480]);
  await teodor.getByLabel("Words of the note").fill("Same seal on both halves?");
  await teodor.getByRole("radio", { name: "Question" }).click();
  await teodor.getByRole("button", { name: "Add question" }).click();
  const note = teodor.getByTestId(/^note-\d+$/).filter({ hasText: "Same seal on both halves?" });
  await note.getByRole("button", { name: "Another place" }).click();
  await expect(teodor.getByText(/Draw where question \d+ belongs as well/)).toBeVisible();
  await teodor.getByRole("navigation", { name: "Items of the package" }).getByRole("button").nth(1).click();
  await expect(teodor.locator("[data-sharp=true]")).toBeVisible();
  await draw(teodor, "a", [300, 220], [360, 260]);
  await expect(note.getByText("2 places:")).toBeVisible();
  await note.locator("p button").first().click();
  await expect(
    teodor.getByRole("navigation", { name: "Items of the package" }).getByRole("button").first(),
  ).toHaveAttribute("aria-current", "true");
  await teodor.getByRole("button", { name: "Write a note about the whole" }).click();
  await teodor.getByLabel("Words of the note").fill("A tidy set of drawings.");
  await teodor.getByRole("radio", { name: "Remark" }).click();
  await teodor.getByRole("button", { name: "Add remark" }).click();
  await expect(koa.getByText("A tidy set of drawings.")).toBeVisible();
  // Others may see it before the page that wrote it has taken its words away.
  await expect(teodor.getByLabel("Words of the note")).toBeHidden();
  await teodor.reload();
  await expect(teodor.locator("[data-sharp=true]")).toBeVisible();
  await expect(teodor.getByText("A tidy set of drawings.")).toBeVisible();
  expect(house.froe("verify")).toContain("every hash holds");
});
