import { expect, test } from "./house";
import { as, check } from "./person";

test("what was asked for is found across packages, said whose turn it is, and shown on its sheet", async ({
  browser,
}) => {
  const odalys = await as(browser, "Odalys Brandvold");
  await odalys.getByRole("link", { name: "Notes" }).click();
  const row = (words: string) => odalys.getByRole("row").filter({ hasText: words });
  // Returned: her turn. Answered and sent again: his who asked.
  await expect(row("Radius at the shoulder")).toContainText("you");
  await expect(row("Seal 3 needs its material grade")).toContainText("done differently");
  await expect(row("Seal 3 needs its material grade")).toContainText("Teodor Quill");
  await check(odalys, "requests");

  // By document, downwards, and only what one document is about.
  await odalys.getByRole("columnheader", { name: "Document" }).getByRole("button").click();
  await expect(odalys.getByRole("columnheader", { name: "Document" })).toHaveAttribute("aria-sort", "ascending");
  // Another story may have asked for something on the model meanwhile.
  await expect(odalys.getByRole("row").nth(1)).toContainText(/TO-330[01]/);
  await odalys.keyboard.press("/");
  await odalys.keyboard.type("to-3302 maren");
  await expect(odalys.getByText("No request fits")).toBeVisible();
  await odalys.getByLabel("Find a note").fill("to-3302 radius");
  await expect(odalys.getByRole("row")).toHaveCount(2);
  await row("Radius at the shoulder")
    .getByRole("button", { name: /^Open request/ })
    .press("Enter");
  await expect(
    odalys.getByRole("listitem").filter({ hasText: "Maren Achterberg asked Odalys Brandvold" }),
  ).toBeVisible();
  await check(odalys, "a request's thread");
  const [download] = await Promise.all([
    odalys.waitForEvent("download"),
    odalys.getByRole("link", { name: "CSV" }).click(),
  ]);
  expect(download.suggestedFilename()).toBe("requests.csv");

  // From the list straight to the place on the sheet, also when it is not the first item's.
  const teodor = await as(browser, "Teodor Quill");
  await teodor.goto("/requests?whose=asked&standing=all");
  await expect(teodor.getByRole("radio", { name: "I asked" })).toBeChecked();
  await expect(teodor.getByRole("row").filter({ hasText: "Radius at the shoulder" })).toHaveCount(0);
  await teodor.getByRole("link", { name: /Thread M6 for the retainer/ }).click();
  await expect(teodor.getByRole("button", { name: /TO-3305/, exact: false }).first()).toHaveAttribute(
    "aria-current",
    "true",
  );
  const sheet = teodor.locator("[data-sharp=true]");
  await expect(sheet).toBeVisible();
  await expect(teodor.getByTestId("note-3")).toBeVisible();
  const frame = (await sheet.boundingBox())!;
  const mark = (await teodor.getByRole("button", { name: /^request 3, answered/ }).boundingBox())!;
  expect(Math.abs(mark.x - frame.x - frame.width / 2)).toBeLessThan(frame.width * 0.4);
  const scale = Number(await sheet.getAttribute("data-scale"));
  await teodor.getByRole("button", { name: "Fit" }).click();
  await expect.poll(async () => Number(await sheet.getAttribute("data-scale"))).toBeLessThan(scale * 0.7);
});
