import type { Browser, Page } from "@playwright/test";
import { expect, test } from "./house";
import { as, openBench, sign } from "./person";

const drawings = `${process.env.FROE_ROOT}/demo/drawings`;

/** Registers a drawing and sends it to the checker and the chief engineer. */
async function sent(browser: Browser, title: string, number: string): Promise<Page> {
  const odalys = await as(browser, "Odalys Brandvold");
  await odalys.getByRole("link", { name: "Register" }).click();
  await odalys.getByRole("button", { name: "Register a document" }).click();
  await odalys.getByLabel("Drawing file").setInputFiles(`${drawings}/TO-3305_A1.dxf`);
  await expect(odalys.getByText(/DXF 2000 · Model/)).toBeVisible();
  await odalys.getByLabel("Number").fill(number);
  await odalys.getByLabel("Title").fill(title);
  await odalys.getByRole("button", { name: "Register the document" }).click();
  await expect(odalys.getByRole("heading", { name: title })).toBeVisible();
  await odalys.goto("/send");
  await odalys.getByRole("checkbox", { name: new RegExp(number) }).check();
  await odalys.getByRole("radio", { name: /Checker, then chief/ }).click();
  await odalys.getByLabel("Title").fill(title);
  await odalys.getByLabel("Change order").fill("CO-0044");
  await odalys.getByRole("button", { name: /^Send to / }).click();
  await expect(odalys.getByRole("heading", { name: title })).toBeVisible();
  await expect(odalys.getByRole("heading", { name: /Change order CO-0044/ })).toBeVisible();
  return odalys;
}

/** Opens the side sheet of acts and picks one. */
async function route(page: Page, act: RegExp) {
  await page.getByRole("button", { name: "Route" }).click();
  await page.getByRole("radio", { name: act }).click();
}

test("a deputy returns, the originator cannot, the reviewer closes with words; then it is pulled back and goes on", async ({
  browser,
  house,
}) => {
  test.setTimeout(300_000);
  const title = "Lived with: bracket";
  const odalys = await sent(browser, title, "TO-9101");

  // The checker is away for a while; Sunniva stands in, hears of it, and returns with a request.
  const teodor = await as(browser, "Teodor Quill");
  const day = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
  const ids = Object.fromEntries(
    house
      .rows("SELECT name || '|' || id FROM person WHERE name IN ('Teodor Quill', 'Sunniva Pall')")
      .map((r) => r.split("|") as [string, string]),
  );
  await teodor.evaluate(
    async ([person, deputy, firstDay, backDay]) => {
      const { formToken } = (await (await fetch("/api/session")).json()) as { formToken: string };
      await fetch("/api/absences", {
        method: "POST",
        headers: { "X-Froe-Form": formToken, "Content-Type": "application/json" },
        body: JSON.stringify({ person, deputy, firstDay, backDay }),
      });
    },
    [ids["Teodor Quill"]!, ids["Sunniva Pall"]!, day(-1), day(5)] as const,
  );
  const sunniva = await as(browser, "Sunniva Pall");
  await openBench(sunniva, title);
  await expect(sunniva.getByText("You sign for Teodor Quill, who is away.")).toBeVisible();
  await sunniva.getByRole("button", { name: "Write a note about the whole" }).click();
  await sunniva.getByLabel("Words of the note").fill("Make the lip 3 mm.");
  await sunniva.getByRole("button", { name: "Add request" }).click();
  await expect(sunniva.getByTestId("note-1")).toContainText("for Teodor Quill");
  await sign(sunniva, ["Return"], "For Teodor.");

  // Odalys hears of it in a quiet line, answers that it cannot be, and sends the very same bytes.
  await expect(odalys.getByRole("status", { name: "New messages" })).toContainText("came back");
  await openBench(odalys, title);
  const note = odalys.getByTestId("note-1");
  await note.getByRole("button", { name: "Cannot, because" }).click();
  await note.getByLabel("Answer to request 1").fill("The seal has no room for it.");
  await note.getByRole("button", { name: "Cannot, because" }).click();
  await expect(odalys.getByText("The request is answered.")).toBeVisible();
  await expect(odalys.getByText("goes again as it is")).toBeVisible();
  await odalys.getByRole("button", { name: "Send round 2" }).click();
  await expect(odalys.getByText("Round 2", { exact: true })).toBeVisible();

  // The reviewer sees why nothing changed, and closes it with words.
  await openBench(sunniva, title);
  await expect(sunniva.getByText("Unchanged since it was returned, because:")).toBeVisible();
  const hers = sunniva.getByTestId("note-1");
  await hers.getByRole("button", { name: "Close", exact: true }).click();
  await hers.getByLabel("What you found on request 1").fill("Then 2.5 mm it stays.");
  await hers.getByRole("button", { name: "Close", exact: true }).click();
  await expect(hers).toContainText("closed it");
  await sign(sunniva, ["Approve"], "");

  // Koa pulls it back; what does not change keeps its signature, and only the chief is still to sign.
  const koa = await as(browser, "Koa Whitlock");
  const id = house.rows(`SELECT id FROM package WHERE title = '${title}'`)[0]!;
  await koa.goto(`/packages/${id}`);
  await route(koa, /^Pull the package back/);
  await koa.getByLabel("Reason, for the record").fill("The client asks for a pause.");
  await koa.getByRole("button", { name: "Pull the package back", exact: true }).click();
  await expect(koa.getByText("returned", { exact: true }).first()).toBeVisible();
  await odalys.goto(`/packages/${id}`);
  await expect(odalys.getByText("Nothing is asked for that waits for an answer.")).toBeVisible();
  await odalys.getByRole("button", { name: "Send round 3" }).click();
  await expect(odalys.getByText("Round 3", { exact: true })).toBeVisible();
  const ruben = await as(browser, "Ruben Tashiro-Lowe");
  await openBench(ruben, title);
  await sign(ruben, ["Approve"], "");
  await expect(odalys.getByText("Every signature is in")).toBeVisible();
  const [absence] = house.rows(`SELECT id FROM absence WHERE person_id = '${ids["Teodor Quill"]}'`);
  await teodor.evaluate(async (absence) => {
    const { formToken } = (await (await fetch("/api/session")).json()) as { formToken: string };
    await fetch(`/api/absences/${absence}`, { method: "DELETE", headers: { "X-Froe-Form": formToken } });
  }, absence!);
  expect(house.rows(`SELECT count(*) FROM absence WHERE person_id = '${ids["Teodor Quill"]}'`)).toEqual(["0"]);
  expect(house.froe("verify")).toContain("every hash holds");
});

test("a recalled package's request comes along, and a document is withdrawn", async ({ browser, house }) => {
  test.setTimeout(240_000);
  const title = "Lived with: cover";
  const odalys = await sent(browser, title, "TO-9102");
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, title);
  await teodor.getByRole("button", { name: "Write a note about the whole" }).click();
  await teodor.getByLabel("Words of the note").fill("Show the gasket.");
  await teodor.getByRole("button", { name: "Add request" }).click();
  await expect(teodor.getByTestId("note-1")).toBeVisible();

  // Recalling says who has written what; sending again shows what comes along.
  await route(odalys, /^Recall the package/);
  await expect(odalys.getByText(/Teodor Quill has written a note already/)).toBeVisible();
  await odalys.getByLabel("Reason, for the record").fill("The wrong file.");
  await odalys.getByRole("button", { name: "Recall the package", exact: true }).click();
  await expect(odalys.getByText("stopped", { exact: true }).first()).toBeVisible();
  await odalys.goto("/send");
  await odalys.getByRole("checkbox", { name: /TO-9102/ }).check();
  await expect(odalys.getByText("One request was never settled, and comes along:")).toBeVisible();
  await expect(odalys.getByText("Show the gasket.")).toBeVisible();
  await odalys.getByRole("radio", { name: /Checker, then chief/ }).click();
  await odalys.getByLabel("Title").fill(`${title}, again`);
  await odalys.getByRole("button", { name: /^Send to / }).click();
  await expect(odalys.getByTestId("note-1")).toContainText("from an earlier package");

  // The coordinator withdraws the document: the package ends, and whoever had it is told why.
  const koa = await as(browser, "Koa Whitlock");
  const document = house.rows("SELECT id FROM document WHERE number = 'TO-9102'")[0]!;
  await koa.goto(`/register/${document}`);
  await koa.getByRole("button", { name: "Withdraw", exact: true }).click();
  await koa.getByLabel("Reason, for the record and for whoever is told").fill("Cast instead.");
  await koa.getByRole("dialog").getByRole("button", { name: "Withdraw", exact: true }).click();
  await expect(koa.getByRole("complementary").getByText("withdrawn").first()).toBeVisible();
  await expect(odalys.getByText("stopped", { exact: true }).first()).toBeVisible();
  await teodor.goto("/post");
  const told = teodor.getByRole("main").getByRole("link", { name: /is stopped: Lived with: cover, again/ });
  await expect(told).toContainText("TO-9102 is withdrawn. Cast instead.");
  expect(house.froe("verify")).toContain("every hash holds");
});
