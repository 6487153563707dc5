import type { Page } from "@playwright/test";
import { expect, test } from "./house";
import { as, check, openBench } from "./person";

const title = "Pier foundation, survey update";

async function line(page: Page, from: [number, number], to: [number, number]) {
  const box = (await page.getByRole("application").boundingBox())!;
  await page.keyboard.press("l");
  await page.mouse.move(box.x + from[0], box.y + from[1]);
  await page.mouse.down();
  await page.mouse.move(box.x + to[0], box.y + to[1], { steps: 3 });
  await page.mouse.up();
}

test("somebody looks for herself first; what she drew on a dead line outlives her page; what she found becomes a note that names somebody", async ({
  browser,
  house,
}) => {
  const sunniva = await as(browser, "Sunniva Pall");
  // A wording of her own, for later.
  await sunniva.getByRole("button", { name: "Sunniva Pall, your account" }).click();
  await sunniva.getByRole("menuitem", { name: "Frequent wordings" }).click();
  await sunniva.getByLabel("Another wording").fill("Earth strap to be taken to ___ by ___.");
  await sunniva.getByRole("button", { name: "Add", exact: true }).click();
  await expect(sunniva.getByRole("button", { name: /^Take out/ })).toBeVisible();
  await check(sunniva, "frequent wordings");
  await sunniva.keyboard.press("Escape");

  await openBench(sunniva, title);
  const farid = await as(browser, "Farid Nyholm");
  await farid.goto(sunniva.url());
  await expect(farid.locator("[data-sharp=true]")).toBeVisible();
  // Each sees that the other is there.
  await expect(farid.getByText("Here now: Sunniva Pall, sheet 1")).toBeAttached();
  await expect(sunniva.getByText("Here now: Farid Nyholm, sheet 1")).toBeAttached();

  await sunniva.getByRole("button", { name: /^Overlays/ }).click();
  await sunniva.getByLabel("Name of a new overlay").fill("First look");
  await sunniva.getByRole("button", { name: "Add", exact: true }).click();
  await sunniva.getByRole("button", { name: "Change First look" }).click();
  await sunniva.getByLabel("Only I see it until I sign").check();
  await check(sunniva, "an overlay being changed");
  await sunniva.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(sunniva.getByText("Only you see this until you sign.")).toBeVisible();
  await sunniva.keyboard.press("Escape");
  const marks = (page: Page) => page.getByTestId("markups").locator("g");
  const [hers, his] = [await marks(sunniva).count(), await marks(farid).count()];
  await line(sunniva, [200, 200], [320, 240]);
  await expect(marks(sunniva)).toHaveCount(hers + 1);
  const kept = () =>
    house.rows("SELECT count(*) FROM markup m JOIN overlay o ON o.id = m.overlay_id WHERE o.name = 'First look'")[0];
  await expect.poll(kept).toBe("1");
  await farid.reload();
  await expect(farid.locator("[data-sharp=true]")).toBeVisible();
  await expect(marks(farid)).toHaveCount(his);

  // The line goes, she draws on, and closes the page.
  const { context, url } = { context: sunniva.context(), url: sunniva.url() };
  await context.setOffline(true);
  await line(sunniva, [200, 300], [320, 340]);
  await expect(sunniva.getByText("What you drew is kept by this browser")).toBeVisible();
  await sunniva.close();
  await context.setOffline(false);
  expect(kept()).toBe("1");
  const later = await context.newPage();
  await later.goto(url);
  await expect(later.locator("[data-sharp=true]")).toBeVisible();
  await expect.poll(kept).toBe("2");
  await expect(marks(later)).toHaveCount(hers + 2);
  await later.reload();
  await expect(marks(later)).toHaveCount(hers + 2);
  expect(kept()).toBe("2");

  // What was typed over the drawing's values is compared with them.
  await later.getByRole("button", { name: /^Scale |^1:|Scale not known/ }).click();
  await later.getByRole("button", { name: "Compare typed dimensions with the drawing" }).click();
  await expect(later.getByText(/\d+ typed over; all agree with the drawing\./)).toBeVisible();
  await later.getByLabel("Those that agree, too").check();
  await expect(later.getByRole("button", { name: /^6 000 measures 6000/ }).first()).toBeVisible();
  await check(later, "typed dimensions");
  await later.keyboard.press("Escape");
  await expect(later.getByRole("dialog")).toBeHidden();

  // A word on the sheet is found, and asked about by one key; the wording is offered and its blanks are gone through.
  await later.locator("#sheet").focus();
  await later.keyboard.press("/");
  await later.getByLabel("Words to find").fill("foundation");
  await expect(later.getByText(/^\d+ places?$/)).toBeVisible();
  await later.keyboard.press("Enter");
  await later.keyboard.press("Control+Enter");
  const words = later.getByLabel("Words of the note");
  await expect(words).toHaveValue(/^“.*foundation.*”: $/i);
  await later.getByRole("radio", { name: "Question" }).click();
  await words.fill("earth str");
  await later.getByRole("option", { name: /^Earth strap to be taken/ }).click();
  await later.keyboard.type("the north face");
  await later.keyboard.press("Tab");
  await later.keyboard.type("Friday");
  await expect(words).toHaveValue("Earth strap to be taken to the north face by Friday.");
  await words.press("End");
  await words.pressSequentially(" @far");
  await expect(later.getByRole("option", { name: "Farid Nyholm" })).toBeVisible();
  await words.press("ArrowDown");
  await words.press("Enter");
  await later.getByRole("button", { name: "Urgent, by when, tags" }).click();
  await later.getByLabel("Urgent").check();
  await later.getByLabel("Tags, parted by commas").fill("Earthing, survey");
  await check(later, "a note with all it says");
  await later.getByRole("button", { name: "Add question" }).click();
  const note = later.getByTestId(/^note-\d+$/).filter({ hasText: "by Friday. @Farid Nyholm" });
  await expect(note.getByText("Urgent")).toBeVisible();
  await expect(note.getByText("earthing", { exact: true })).toBeVisible();
  await expect(farid.getByTestId(/^note-\d+$/).filter({ hasText: "by Friday. @Farid Nyholm" })).toBeVisible();
  await expect
    .poll(() => house.rows("SELECT subject FROM message WHERE subject LIKE '%Sunniva Pall names you%'").length)
    .toBe(1);
  expect(house.froe("verify")).toContain("every hash holds");
});
