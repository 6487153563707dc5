import { expect, test } from "./house";
import { as, check, openBench } from "./person";

test("a colleague is asked twice, answers one question and keeps what was typed to the other; the seat stays its holder's", async ({
  browser,
}) => {
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Bearing housing to G7 seals");
  const advice = teodor.getByRole("region", { name: "Advice" });
  for (const question of ["Is the lip long enough?", "Does the alloy take M5?"]) {
    await advice.getByRole("button", { name: "ask somebody" }).click();
    await expect(advice.getByLabel("Whom")).toBeFocused();
    await advice.getByLabel("Whom").selectOption({ label: "Koa Whitlock" });
    await advice.getByLabel("Question").fill(question);
    await advice.getByRole("button", { name: "Ask", exact: true }).click();
    await expect(advice.getByText(question)).toBeVisible();
  }
  await expect(advice.getByText("not answered yet")).toHaveCount(2);

  const koa = await as(browser, "Koa Whitlock");
  await koa.goto(new URL(teodor.url()).pathname);
  const asked = koa.getByRole("region", { name: "Advice" }).locator("form");
  await expect(asked).toHaveCount(2);
  await asked.nth(0).getByLabel("Your advice").fill("3 mm will do.");
  await asked.nth(1).getByLabel("Your advice").fill("Not without an insert.");
  await check(koa, "two questions asked of one");

  // While the first is on its way nothing is typed into it, and a second press gives nothing twice.
  let answer = () => {};
  await koa.route("**/api/advice/*", async (route) => {
    await new Promise<void>((go) => (answer = go));
    await route.continue();
  });
  await asked.nth(0).getByRole("button", { name: "Give advice" }).click();
  await expect(asked.nth(0).getByLabel("Your advice")).not.toBeEditable();
  answer();
  await expect(asked).toHaveCount(1);
  await koa.unroute("**/api/advice/*");
  await expect(asked.getByLabel("Your advice")).toHaveValue("Not without an insert.");
  await koa.reload();
  await expect(asked.getByLabel("Your advice")).toHaveValue("Not without an insert.");
  await asked.getByRole("button", { name: "Give advice" }).click();
  await expect(asked).toHaveCount(0);

  // However much is said beside it, the verdict is in view, and nothing of the page lies beyond the window.
  await teodor.reload();
  for (const height of [800, 640]) {
    await teodor.setViewportSize({ width: 1280, height });
    await expect(teodor.getByRole("button", { name: "2 to decide" })).toBeInViewport({ ratio: 1 });
    await expect(teodor.getByRole("radio", { name: /^Approve / })).toBeInViewport({ ratio: 1 });
  }
  await expect(advice.getByText("3 mm will do.")).toBeVisible();
  await expect(advice.getByText("Not without an insert.")).toBeVisible();
  await expect(advice.getByText("not answered yet")).toHaveCount(0);
  await expect(teodor.getByRole("button", { name: "2 to decide" })).toBeVisible();
});
