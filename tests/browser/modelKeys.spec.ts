import { expect, test } from "./house";
import { armFromTheRight, openModel } from "./model";
import { as, check } from "./person";

test("by keyboard alone a bore and a corner are picked and measured, and words are written on a view; by hand they are moved", async ({
  browser,
}) => {
  test.slow();
  const page = await as(browser, "Maren");
  await openModel(page);
  const model = page.getByTestId("model");
  const { scale } = await armFromTheRight(page);
  const picked = page.getByRole("region", { name: "Picked" });

  // The cross stands in the middle at first; arrows move it by 24, with Shift by 2.
  await page.keyboard.press(" ");
  await expect(page.getByTestId("cross")).toBeVisible();
  const went = { x: 0, y: 0 };
  const go = async (x: number, y: number) => {
    for (const [axis, to] of [
      ["x", x],
      ["y", y],
    ] as const) {
      const keys = axis === "x" ? ["ArrowLeft", "ArrowRight"] : ["ArrowUp", "ArrowDown"];
      for (const step of [24, 2])
        while (Math.abs(to - went[axis]) >= step) {
          const way = Math.sign(to - went[axis]);
          await page.keyboard.press(`${step === 2 ? "Shift+" : ""}${keys[way > 0 ? 1 : 0]!}`);
          went[axis] += way * step;
        }
    }
  };
  await go(31 * scale, -105 * scale);
  await page.keyboard.press(" ");
  await expect(picked).toContainText("Ø 62.000 mm");
  // A corner of the foot: 90 beside the bore's axis and 300 below.
  await go(89.6 * scale, 194.6 * scale);
  await page.keyboard.press("Shift+ ");
  await expect(picked).toContainText("axis to point");
  await expect(picked).toContainText("313.209 mm");
  await expect(picked).toContainText("exact");
  await check(page, "model, picked by the cross");
  await page.keyboard.press("Escape");
  await expect(page.getByTestId("cross")).toHaveCount(0);
  await page.keyboard.press("Escape");
  await expect(picked).toHaveCount(0);

  // Words on this view, set by the cross and moved by an arrow.
  await page.keyboard.press("t");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Enter");
  await page.getByRole("textbox", { name: "Words on the sheet" }).fill("Break this edge");
  await page.keyboard.press("Control+Enter");
  const words = page.getByTestId("markups").getByText("Break this edge");
  await expect(words).toBeVisible();
  const placeOf = async () => (await words.boundingBox())!;
  const first = await placeOf();
  await model.focus();
  await page.keyboard.press("ArrowRight");
  await expect.poll(async () => Math.round((await placeOf()).x - first.x)).toBe(8);

  // By hand, farther; the model stands still. From another side it is not seen, and it is undone like anything else.
  const from = await placeOf();
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + from.width / 2 + 40, from.y + from.height / 2 - 30, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Math.round((await placeOf()).x - from.x)).toBe(40);
  await expect(page.getByTestId("looks-from")).toHaveText("Right");
  await model.focus();
  await page.keyboard.press("z");
  await expect(words).toHaveCount(0);
  await page.keyboard.press("x");
  await expect(words).toBeVisible();
  await page.keyboard.press("Control+z");
  await page.keyboard.press("Control+z");
  await expect.poll(async () => Math.round((await placeOf()).x - first.x)).toBe(0);
  await page.keyboard.press("Control+z");
  await expect(words).toHaveCount(0);
  await page.context().close();
});
