import { expect, test } from "./house";
import { as, openBench, sign } from "./person";

const drawings = `${process.env.FROE_ROOT}/demo/drawings`;
test("a drawing goes from its sending through a return to its release", async ({ browser, house }) => {
  test.setTimeout(480_000);
  const title = "Retainer ring, trial";
  const odalys = await as(browser, "Odalys Brandvold");

  // Two drawings are registered from files and sent on the full plan.
  for (const [file, number, words] of [
    ["TO-3305_A1.dxf", "TO-9001", "Retainer ring, upper"],
    ["TO-2207_A1.dxf", "TO-9002", "Retainer ring, lower"],
  ] as const) {
    await odalys.getByRole("link", { name: "Register" }).click();
    await odalys.getByRole("button", { name: "Register a document" }).click();
    await odalys.getByLabel("Drawing file").setInputFiles(`${drawings}/${file}`);
    await expect(odalys.getByText(/DXF 2000 · Model/)).toBeVisible();
    await odalys.getByLabel("Number").fill(number);
    await odalys.getByLabel("Title").fill(words);
    await odalys.getByRole("button", { name: "Register the document" }).click();
    await expect(odalys.getByRole("heading", { name: words })).toBeVisible();
    await odalys.goto("/register");
  }
  await odalys.getByRole("link", { name: "Send" }).click();
  await odalys.getByRole("checkbox", { name: /TO-9001/ }).check();
  await odalys.getByRole("checkbox", { name: /TO-9002/ }).check();
  await odalys.getByRole("radio", { name: /Parts, full/ }).click();
  await expect(odalys.getByRole("complementary", { name: "The route" })).toContainText("Teodor Quill");
  await expect(odalys.getByRole("complementary", { name: "The route" })).toContainText("2 of 3");
  await odalys.getByLabel("Title").fill(title);
  await odalys.getByLabel("Covering note").fill("A trial of the loop.");
  await odalys.getByText("Farid Nyholm", { exact: true }).click();
  const watching = await as(browser, "Koa Whitlock");
  await watching.getByRole("link", { name: "Turnaround" }).click();
  await expect(watching.getByRole("table")).toBeVisible();
  await odalys.getByRole("button", { name: "Send to Teodor" }).click();
  await expect(odalys.getByRole("heading", { name: title })).toBeVisible();
  // Whoever watches the monitor sees it come without a reload.
  await expect(watching.getByRole("link", { name: title })).toBeVisible();
  await watching.context().close();

  // It arrives on the checker's desk without a reload, and he signs both.
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, title);
  await sign(teodor, ["Approve", "Approve"], "Checked.");

  // Structures and quality look side by side; one marks a request and returns, the other's count moves on everyone's screen.
  const maren = await as(browser, "Maren Achterberg");
  const ilse = await as(browser, "Ilse Marchetti");
  await openBench(maren, title);
  await openBench(ilse, title);
  await sign(ilse, ["Approve", "Approve"], "");
  await expect(maren.getByTestId("count-quality")).toHaveText("1 of 2");
  await maren.getByRole("radio", { name: /^Return / }).click();
  const sheet = maren.getByRole("application");
  const box = (await sheet.boundingBox())!;
  await maren.keyboard.press("c");
  await maren.mouse.move(box.x + 240, box.y + 240);
  await maren.mouse.down();
  await maren.mouse.move(box.x + 360, box.y + 330, { steps: 4 });
  await maren.mouse.up();
  await maren.getByLabel("Words of the note").fill("Thread to M6.");
  await maren.getByRole("button", { name: "Add request" }).click();
  await expect(maren.getByTestId("badge-1")).toBeVisible();
  await maren.getByTestId("badge-1").click();
  await expect(maren.getByTestId("note-1")).toContainText("Thread to M6.");
  await sign(maren, ["Return", "Approve"], "One point.");
  const sunniva = await as(browser, "Sunniva Pall");
  await openBench(sunniva, title);
  await sign(sunniva, ["Approve", "Approve"], "");
  const koa = await as(browser, "Koa Whitlock");
  await openBench(koa, title);
  await sign(koa, ["Approve", "Approve"], "");

  // The originator sees it come back at once, answers, uploads the next draft and sends round 2.
  await odalys.goto("/");
  await expect(odalys.getByRole("region", { name: "To answer" })).toContainText(title);
  await openBench(odalys, title);
  await expect(odalys.getByText("One request to answer")).toBeVisible();
  await odalys.getByTestId("note-1").getByRole("button", { name: "Done", exact: true }).click();
  await odalys.getByTestId("note-1").getByRole("button", { name: "Done", exact: true }).click();
  await expect(odalys.getByText("The request is answered.")).toBeVisible();
  await odalys.getByRole("button", { name: "Upload TO-9001" }).click();
  await odalys.getByLabel("Drawing file").setInputFiles(`${drawings}/TO-3305_A2.dxf`);
  await odalys.getByRole("button", { name: "Add the draft" }).click();
  await expect(odalys.getByText("A.2 ready")).toBeVisible();
  await odalys.getByRole("button", { name: "Send round 2" }).click();
  await expect(odalys.getByText("Round 2", { exact: true })).toBeVisible();

  // The checker finds the request carried to the new draft, closes it, and signs; then the others.
  await openBench(teodor, title);
  await expect(teodor.getByTestId("note-1")).toContainText("answered: done");
  // It is Maren's to close. Whoever reopens it says what is missing, and it is theirs to close from then on as well.
  const note = teodor.getByTestId("note-1");
  await expect(note.getByRole("button", { name: "Close" })).toHaveCount(0);
  await note.getByRole("button", { name: "Reopen" }).click();
  await note.getByRole("button", { name: "Reopen" }).click();
  await expect(note.getByRole("alert")).toContainText("Say what is still missing");
  await note.getByLabel("Why you reopen request 1").fill("Is the depth of the thread drawn as well?");
  await note.getByRole("button", { name: "Reopen" }).click();
  await expect(note).toContainText("reopened it");
  await expect(note).toContainText("Is the depth of the thread drawn as well?");
  await note.getByRole("button", { name: "Close", exact: true }).click();
  await note.getByRole("button", { name: "Close", exact: true }).click();
  await expect(note.getByRole("alert")).toContainText("a request is closed only with words");
  await note.getByLabel("What you found on request 1").fill("M6, 12 deep.");
  await note.getByRole("button", { name: "Close", exact: true }).click();
  await expect(note).toContainText("closed it");
  await expect(note).toContainText("M6, 12 deep.");
  await expect(note.getByRole("button", { name: "Reopen" })).toBeVisible();
  await sign(teodor, ["Approve", "Approve"], "Thread is M6 now.");
  for (const page of [maren, sunniva, ilse, koa]) {
    await openBench(page, title);
    await sign(page, ["Approve", "Approve"], "");
  }
  const ruben = await as(browser, "Ruben Tashiro-Lowe");
  await openBench(ruben, title);
  await sign(ruben, ["Approve", "Approve"], "Released.");

  // Everyone sees the release; database, ledger and mail agree.
  await expect(odalys.getByText("Every signature is in")).toBeVisible();
  await odalys.getByRole("button", { name: "Ledger" }).click();
  await expect(odalys.getByRole("dialog")).toContainText("package released");
  await expect(odalys.getByRole("dialog")).toContainText("Thread is M6 now.");
  expect(
    house.rows(
      "SELECT d.number || ' ' || r.label || ' ' || r.standing FROM document d JOIN revision r ON r.document_id = d.id WHERE d.number LIKE 'TO-90%' ORDER BY 1",
    ),
  ).toEqual(["TO-9001 A released", "TO-9002 A released"]);
  const actions = house.rows(
    `SELECT action FROM ledger_entry WHERE chain = (SELECT id FROM package WHERE title = '${title}') ORDER BY sequence`,
  );
  expect(actions[0]).toBe("package sent");
  expect(actions.filter((a) => a.startsWith("signed"))).toHaveLength(5 + 6);
  expect(actions).toContain("package returned");
  expect(actions.at(-1)).toBe("package released");
  expect(house.froe("verify")).toContain("every hash holds");
  const farid = await as(browser, "Farid Nyholm");
  await farid.getByRole("link", { name: "Post" }).click();
  await farid
    .getByRole("main")
    .getByRole("link", { name: new RegExp(`is released: ${title}`) })
    .click();
  await expect(farid.getByRole("heading", { name: title })).toBeVisible();
  await expect(async () => {
    const page = await (await fetch(house.mailPage)).text();
    expect(page).toContain(`is released: ${title}`);
  }).toPass();
});
