import type { Browser, Page } from "@playwright/test";
import { expect, test } from "./house";
import { as, check, openBench, readyToDraw } from "./person";

type At = readonly [x: number, y: number];

/** A hand on the sheet, in pixels from its upper left. */
async function handOn(page: Page) {
  const box = (await page.getByRole("application").boundingBox())!;
  const to = ([x, y]: At) => page.mouse.move(box.x + x, box.y + y);
  return {
    async press(...all: At[]) {
      for (const at of all) {
        await to(at);
        await page.mouse.down();
        await page.mouse.up();
      }
    },
    async drag(...all: At[]) {
      await to(all[0]!);
      await page.mouse.down();
      for (const at of all.slice(1)) await to(at);
      await page.mouse.up();
    },
    move: to,
  };
}

/** What the server says that somebody drew on the draft on the bench, by kind. */
async function kinds(page: Page, who: string) {
  const draft = await page.locator("#sheet img").first().getAttribute("src");
  return page.evaluate(
    async ([id, who]) => {
      type Lies = { overlays: { ownerName: string; markups: { shape: { shape: string }; note: string | null }[] }[] };
      const all = (await (await fetch(`/api/drafts/${id!}/overlays`)).json()) as Lies;
      return all.overlays
        .filter((o) => o.ownerName === who)
        .flatMap((o) => o.markups.map((m) => m.shape.shape + (m.note ? " of a note" : "")))
        .sort();
    },
    [/drafts\/([^/]+)/.exec(draft!)![1]!, who],
  );
}

/** Teodor with a hand on the second item of a package; another story counts what lies on its first. */
async function begun(browser: Browser) {
  const page = await as(browser, "Teodor Quill");
  await openBench(page, "Bearing housing to G7 seals");
  await page.getByRole("button", { name: "Next item" }).click();
  await expect(page.locator("[data-sharp=true]")).toBeVisible();
  await readyToDraw(page);
  const there = () => kinds(page, "Teodor Quill");
  const before = await there();
  /** Waits until only these were drawn besides. */
  const more = (...names: string[]) => expect.poll(there).toEqual([...before, ...names].sort());
  return { page, hand: await handOn(page), more };
}

test("every kind of markup is drawn by hand, words are kept until they are written, a note is written to what lies there", async ({
  browser,
}) => {
  const { page, hand, more } = await begun(browser);

  await page.keyboard.press("i");
  await hand.drag([120, 90], [180, 110], [230, 130]);
  await more("highlight");
  await page.keyboard.press("x");
  await hand.drag([120, 170], [180, 170], [230, 170]);
  await page.keyboard.press("p");
  await hand.press([300, 90], [380, 120], [390, 160]);
  await page.keyboard.press("Backspace");
  await page.keyboard.press("Enter");
  await page.keyboard.press("d");
  await hand.drag(...Array.from({ length: 30 }, (_, i): At => [120 + 3 * i, 230 + 15 * Math.sin(i / 4)]));
  await more("freehand", "highlight", "polyline", "strike");

  // A gesture that is cancelled leaves nothing.
  await page.keyboard.press("p");
  await hand.press([300, 300], [350, 320]);
  await page.keyboard.press("Escape");

  // A length is measured in the sheet's own unit, kept, and says what it should be.
  await page.keyboard.press("m");
  await expect(page.locator("[data-catching=true]")).toBeVisible();
  // Points of the file are caught and named, and the next of them asked for; held with Alt, the hand catches nothing.
  const caught = page.getByTestId("snap");
  for (let x = 250; x < 500 && (await caught.count()) === 0; x += 4) await hand.move([x, 300]);
  await expect(caught).toHaveText(/^(end|middle|centre|quadrant|crossing|on the line)$/);
  await page.keyboard.press("Tab");
  await expect(page.getByRole("application")).toBeFocused();
  await page.keyboard.down("Alt");
  await hand.move([300, 301]);
  await expect(caught).toHaveCount(0);
  await hand.drag([300, 200], [360, 200], [440, 200]);
  await page.keyboard.up("Alt");
  await hand.press([370, 240]);
  await more("dimension", "freehand", "highlight", "polyline", "strike");
  await expect(page.getByTestId("markups").locator("text").filter({ hasText: / mm/ })).toBeVisible();
  await page.keyboard.press("F2");
  await page.getByLabel("Value asked for").fill("42 ±0.1");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("markups").locator("text").filter({ hasText: "→ 42 ±0.1" })).toBeVisible();

  // Words that are being written outlive a reload; thrown away they are gone.
  await page.keyboard.press("t");
  await hand.press([120, 300]);
  await page.getByLabel("Words on the sheet").fill("New housing,\nsee sheet 2");
  await check(page, "words being written");
  await page.reload();
  await expect(page.getByLabel("Words on the sheet")).toHaveValue("New housing,\nsee sheet 2");
  await page.getByRole("button", { name: "Write", exact: true }).click();
  await more("dimension", "freehand", "highlight", "polyline", "strike", "words");
  // Written anew and left by key, the same key goes on with them: they are no others.
  await page.keyboard.press("F2");
  await page.getByLabel("Words on the sheet").fill("New housing,\nsee sheet 2!");
  await page.keyboard.press("Escape");
  await page.keyboard.press("F2");
  await expect(page.getByLabel("Words on the sheet")).toHaveValue("New housing,\nsee sheet 2!");
  await expect(page.getByText(/You have begun other words/)).toBeHidden();
  await page.getByLabel("Words on the sheet").fill("New housing,\nsee sheet 2");
  await page.getByRole("button", { name: "Write", exact: true }).click();
  await expect(page.getByTestId("markups").getByText("see sheet 2")).toBeVisible();
  await page.keyboard.press("w");
  await hand.drag([420, 330], [380, 310], [340, 300]);
  await page.getByLabel("Words on the sheet").fill("M10");
  await page.keyboard.press("Escape");
  await expect(page.getByLabel("Words on the sheet")).toBeHidden();
  // What was typed waits, and is not put aside for other words.
  await expect(page.getByText("Words that you began are kept here.")).toBeVisible();
  await page.keyboard.press("t");
  await hand.press([420, 420]);
  await expect(page.getByText("You have begun other words already. Write or discard them first.")).toBeVisible();
  await expect(page.getByLabel("Words on the sheet")).toHaveValue("M10");
  await page.getByRole("button", { name: "Discard" }).click();
  await expect(page.getByLabel("Words on the sheet")).toBeHidden();

  // From the menu; what it is chosen for is drawn next. A box says where: a note is begun with it.
  await page.getByRole("button", { name: "More to draw with" }).click();
  await check(page, "more to draw with");
  await page.getByRole("menuitem", { name: "Box" }).click();
  await hand.drag([300, 360], [350, 380], [420, 400]);
  await page.getByLabel("Words of the note").fill("Is this the new flange?");
  await page.keyboard.press("Control+Enter");
  await more("box of a note", "dimension", "freehand", "highlight", "polyline", "strike", "words");

  // What lies there is written about, copied to the same place, and taken back.
  await hand.press([340, 105]);
  await page.keyboard.press("Control+c");
  await page.keyboard.press("Control+v");
  await more("box of a note", "dimension", "freehand", "highlight", "polyline", "polyline", "strike", "words");
  await page.keyboard.press("Control+z");
  await hand.press([340, 105]);
  await page.getByRole("button", { name: "Note to it" }).click();
  await page.getByLabel("Words of the note").fill("This edge is not in the list.");
  await page.keyboard.press("Control+Enter");
  await more("box of a note", "dimension", "freehand", "highlight", "polyline of a note", "strike", "words");
  await check(page, "a sheet with many kinds of markup");

  // The plain sheet, by one key, and everything again; only one's own by another.
  const drawn = page.getByTestId("markups").locator("g");
  const all = await drawn.count();
  await page.keyboard.press("y");
  await expect(drawn).toHaveCount(0);
  await page.keyboard.press("y");
  await expect(drawn).toHaveCount(all);
  await page.keyboard.press("Shift+Y");
  const own = (await kinds(page, "Teodor Quill")).length;
  expect(own).toBeLessThan(all);
  await expect(drawn).toHaveCount(own);
});

test("words of a note are not put aside for another; what is pressed once it was added is for the sheet, or it says why it was not", async ({
  browser,
}) => {
  const { page, hand, more } = await begun(browser);
  const words = page.getByLabel("Words of the note");

  await page.keyboard.press("c");
  await hand.drag([120, 90], [180, 110], [230, 130]);
  await words.fill("This radius is too small.");
  // Another is drawn before it was added: it lies there without words.
  await page.getByRole("button", { name: "Cloud" }).click();
  await hand.drag([540, 90], [580, 120], [640, 150]);
  await expect(page.getByText("You have begun a note already. Add or discard it first.")).toBeVisible();
  await expect(words).toHaveValue("This radius is too small.");
  await more("cloud");

  // On a slow line, which breaks.
  let answer = () => {};
  await page.route("**/notes", async (route) => {
    await new Promise<void>((go) => (answer = go));
    await route.abort();
  });
  const drawn = page.getByTestId("markups").locator("g");
  await words.press("Control+Enter");
  await expect(page.getByRole("button", { name: "Adding …" })).toBeVisible();
  await hand.press([540, 90]);
  await expect(page.getByRole("button", { name: "Erase", exact: true })).toBeVisible();
  await page.keyboard.press("Control+c");
  await page.keyboard.press("Control+v");
  await more("cloud", "cloud");
  await page.keyboard.press("y");
  await expect(drawn).toHaveCount(0);
  answer();
  await expect(words).toBeFocused();
  await expect(words).toHaveValue("This radius is too small.");
  await page.unroute("**/notes");
  await words.press("Control+Enter");
  await expect(words).toBeHidden();
  await page.keyboard.press("y");
  await more("cloud", "cloud", "cloud of a note");
});

test("words and a note that were begun on the draft before go on with the next", async ({ browser }) => {
  const { page, hand, more } = await begun(browser);
  await page.keyboard.press("t");
  await hand.press([200, 300]);
  await page.getByLabel("Words on the sheet").fill("Lip is 3 mm now");
  await page.keyboard.press("Escape");
  await page.keyboard.press("c");
  await hand.drag([300, 100], [350, 140], [420, 180]);
  await page.getByLabel("Words of the note").fill("Is the seal the same?");
  await page.keyboard.press("Escape");
  // As though the next draft had come while they were written: they are of the one before.
  await page.evaluate(
    async (id) => {
      const p = (await (await fetch(`/api/packages/${id}`)).json()) as {
        items: { draft: string; earlierDrafts: { draft: string }[] }[];
      };
      const item = p.items[1]!;
      for (const key of Object.keys(localStorage).filter(
        (k) => k.endsWith(` on ${item.draft}`) && /(words|note) on/.test(k),
      )) {
        localStorage.setItem(key.replace(item.draft, item.earlierDrafts.at(-1)!.draft), localStorage.getItem(key)!);
        localStorage.removeItem(key);
      }
    },
    /packages\/([^/?]+)/.exec(page.url())![1]!,
  );
  await page.reload();
  await expect(page.getByText("A note that you began on the last draft is kept; this is the next.")).toBeVisible();
  await page.getByRole("button", { name: "Write it on this draft" }).click();
  await expect(page.getByLabel("Words of the note")).toHaveValue("Is the seal the same?");
  await page.getByLabel("Words of the note").press("Control+Enter");
  await expect(page.getByText("Words that you began on the last draft are kept; this is the next.")).toBeVisible();
  await page.getByRole("button", { name: "Write them on this draft" }).click();
  await expect(page.getByLabel("Words on the sheet")).toHaveValue("Lip is 3 mm now");
  await page.getByRole("button", { name: "Write", exact: true }).click();
  await more("cloud of a note", "words");
  await page.reload();
  await expect(page.locator("[data-sharp=true]")).toBeVisible();
  await expect(page.getByText(/began on the last draft/)).toBeHidden();
});

test("a cloud by points and a length are drawn with the keyboard alone", async ({ browser }) => {
  const { page, more } = await begun(browser);
  const sheet = page.getByRole("application");
  await sheet.focus();
  const go = async (key: string, times: number) => {
    for (let i = 0; i < times; i++) await page.keyboard.press(key);
  };
  await page.keyboard.press("k");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Enter");
  await go("ArrowRight", 4);
  await page.keyboard.press("Enter");
  await go("ArrowDown", 3);
  await page.keyboard.press("Enter");
  // A second time at the same place: these are all.
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Keep without words" }).press("Enter");
  await expect(sheet).toBeFocused();
  await page.keyboard.press("m");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Enter");
  await go("ArrowLeft", 5);
  await page.keyboard.press("Enter");
  await go("ArrowUp", 2);
  await page.keyboard.press("Enter");
  await more("cloudPath", "dimension");
  // Points by numbers: from the origin, then from the last one, by a length at an angle.
  await page.keyboard.press("l");
  await page.keyboard.press(";");
  const point = page.getByLabel("Point", { exact: true });
  await point.fill("here");
  await point.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "12.5 40" })).toBeVisible();
  await check(page, "a point by numbers");
  await point.fill("60 80,5");
  await point.press("Enter");
  await point.fill("50<90");
  await point.press("Enter");
  await expect(point).toBeHidden();
  await expect(sheet).toBeFocused();
  const last = () =>
    page.evaluate(async () => {
      const pack = (await (await fetch(`/api${location.pathname}`)).json()) as { items: { draft: string }[] };
      const all = (await (await fetch(`/api/drafts/${pack.items[1]!.draft}/overlays`)).json()) as {
        overlays: { markups: { shape: { shape: string; from: object; to: object } }[] }[];
      };
      return all.overlays.flatMap((o) => o.markups.filter((m) => m.shape.shape === "line")).at(-1)?.shape;
    });
  await expect.poll(last).toEqual({ shape: "line", from: { x: 60, y: 80.5 }, to: { x: 60, y: 130.5 } });
});

test("several markups are picked by a box and by Shift, moved and erased in one gesture, copied to another sheet", async ({
  browser,
}) => {
  const { page, hand, more } = await begun(browser);
  /** Where the lines drawn last lie in the window. */
  const lines = () =>
    page
      .getByTestId("markups")
      .locator("g")
      .evaluateAll((all) => all.slice(-2).map((g) => g.getAttribute("transform")));
  for (const x of [80, 130]) {
    await page.keyboard.press("l");
    await hand.drag([x, 480], [x + 20, 500], [x + 40, 520]);
    await page.keyboard.press("Escape");
  }
  await more("line", "line");
  const were = await lines();

  await page.keyboard.down("Shift");
  await hand.drag([60, 460], [120, 500], [200, 540]);
  await page.keyboard.up("Shift");
  await expect(page.getByText("2 markups picked")).toBeAttached();
  await hand.drag([100, 500], [110, 490], [120, 480]);
  await expect.poll(lines).not.toEqual(were);
  const moved = await lines();
  expect(moved.every((at, i) => at !== were[i])).toBe(true);
  await page.keyboard.press("Control+z");
  await expect.poll(lines).toEqual(were);
  await page.keyboard.press("Control+y");
  await expect.poll(lines).toEqual(moved);

  // Copied as they are to the sheet before, and gone from it again by one key.
  await page.keyboard.press("Control+c");
  await page.keyboard.press("Control+v");
  await more("line", "line", "line", "line");
  await page.keyboard.press("Delete");
  await more("line", "line");

  // One by Shift, the other too, and one of them no more.
  await page.keyboard.press("Escape");
  await hand.press([120, 480]);
  await page.keyboard.down("Shift");
  await hand.press([170, 480]);
  await expect(page.getByText("2 markups picked")).toBeAttached();
  await page.keyboard.up("Shift");
  await check(page, "several markups picked");
  await page.keyboard.press("Delete");
  await more();
  await page.keyboard.press("Control+z");
  await more("line", "line");
  await page.keyboard.press("Control+z");
});

test("a stamp bears name and day and is offered again, things are counted one press after the other", async ({
  browser,
}) => {
  const { page, hand, more } = await begun(browser);
  await page.keyboard.press("g");
  await hand.press([90, 420]);
  await page.getByLabel("Words of the stamp").fill("Seen, not checked");
  await check(page, "a stamp being written");
  await page.getByRole("button", { name: "Stamp", exact: true }).last().click();
  await more("stamp");
  await expect(page.getByTestId("markups").getByText(/^Teodor Quill, .*\d{4}$/)).toBeVisible();
  await page.keyboard.press("g");
  await hand.press([90, 520]);
  await page.getByRole("group", { name: "Stamped before" }).getByRole("button", { name: "Seen, not checked" }).click();
  await expect(page.getByLabel("Words of the stamp")).toHaveValue("Seen, not checked");
  await page.keyboard.press("Escape");
  await more("stamp");

  await page.keyboard.press("Escape");
  await page.keyboard.press("z");
  await expect(page.getByText("Press each thing to be counted; Escape ends it.")).toBeVisible();
  await hand.press([300, 420], [340, 420], [380, 420]);
  await expect(page.getByText("3 counted on this sheet")).toBeVisible();
  await check(page, "counting");
  await more("stamp", "count", "count", "count");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await page.keyboard.press("z");
  await expect(page.getByText("2 counted on this sheet")).toBeVisible();
  await page.keyboard.press("Escape");
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  await more();
});
