import type { Page } from "@playwright/test";
import { expect, test } from "./house";
import { as, check, openBench, readyToDraw } from "./person";

const title = "Flange with three faults";

/** A flange of 300 by 200 millimetres: twelve holes on a circle of 160, of which one is too small; a bore that is written larger than it is; a length typed over. */
function flange(): string {
  const circle = (x: number, y: number, r: number) => `0\nCIRCLE\n8\n0\n10\n${x}\n20\n${y}\n40\n${r}\n`;
  const line = (x: number, y: number, x2: number, y2: number) =>
    `0\nLINE\n8\n0\n10\n${x}\n20\n${y}\n11\n${x2}\n21\n${y2}\n`;
  const text = (x: number, y: number, words: string) => `0\nTEXT\n8\n0\n10\n${x}\n20\n${y}\n40\n5\n1\n${words}\n`;
  const holes = Array.from({ length: 12 }, (_, i) => {
    const angle = (i * Math.PI) / 6;
    return circle(150 + 80 * Math.cos(angle), 100 + 80 * Math.sin(angle), i === 4 ? 4 : 6);
  }).join("");
  const typed = "0\nDIMENSION\n8\n0\n70\n1\n1\n310\n10\n150\n20\n-15\n13\n0\n23\n0\n14\n300\n24\n0\n11\n150\n21\n-12\n";
  return (
    "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n" +
    [line(0, 0, 300, 0), line(300, 0, 300, 200), line(300, 200, 0, 200), line(0, 200, 0, 0)].join("") +
    holes +
    circle(150, 100, 30) +
    text(165, 98, "%%c62 H7") +
    typed +
    "0\nENDSEC\n0\nEOF\n"
  );
}

/** Registers the drawing and sends it, as the page would. */
const send = (page: Page, file: string) =>
  page.evaluate(
    async ([file, title]) => {
      const session = (await (await fetch("/api/session")).json()) as { formToken: string };
      const ask = async <T>(path: string, body: unknown, method = "POST"): Promise<T> => {
        const answer = await fetch(`/api${path}`, {
          method,
          headers: { "X-Froe-Form": session.formToken, "Content-Type": "application/json" },
          body: typeof body === "string" ? body : JSON.stringify(body),
        });
        if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
        return (await answer.json()) as T;
      };
      const plans = (await (await fetch("/api/plans")).json()) as { id: string; name: string }[];
      const upload = await ask<{ id: string }>("/uploads?name=flange.dxf", file!);
      for (let state = ""; state !== "read";) {
        const now = (await (await fetch(`/api/uploads/${upload.id}`)).json()) as { state: string; fault?: string };
        if (now.state === "refused") throw new Error(now.fault);
        state = now.state;
        await new Promise((done) => setTimeout(done, 100));
      }
      const made = await ask<{ document: string }>("/documents", {
        ...{ number: "TO-9310", title: "Flange", kind: "drawing", discipline: "mechanical" },
        ...{ upload: upload.id, reason: "", folder: "Mount / Parts" },
      });
      await ask("/packages", {
        ...{ key: crypto.randomUUID(), title, coveringNote: "As asked.", documents: [made.document], inform: [] },
        plan: plans.find((p) => p.name === "Checker, then chief")!.id,
      });
    },
    [file, title],
  );

/** Where points of the sheet lie in the window, by where its picture lies. */
async function placing(page: Page) {
  const extents = await page.evaluate(async () => {
    const pack = (await (await fetch(`/api${location.pathname}`)).json()) as { items: { draft: string }[] };
    const leaves = (await (await fetch(`/api/drafts/${pack.items[0]!.draft}/leaves`)).json()) as {
      frame: { extents: { minX: number; minY: number; maxX: number; maxY: number } };
    }[];
    return leaves[0]!.frame.extents;
  });
  return async (x: number, y: number): Promise<[number, number]> => {
    const box = (await page.locator("#sheet img").first().boundingBox())!;
    const scale = box.width / (extents.maxX - extents.minX);
    return [box.x + (x - extents.minX) * scale, box.y + (extents.maxY - y) * scale];
  };
}

const faults = [
  { at: [100, 162, 120, 178], words: "This hole is 8; all others are 12." },
  { at: [160, 92, 215, 110], words: "The bore is drawn 60 and called 62." },
  { at: [130, -22, 170, -4], words: "Typed over: it measures 300." },
] as const;

test("three faults are marked by mouse and again by keyboard alone, a bolt circle is measured, two draw on one sheet while one line is dead", async ({
  browser,
}) => {
  const odalys = await as(browser, "Odalys Brandvold");
  await send(odalys, flange());
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, title);
  const place = await placing(teodor);
  const notes = teodor.getByRole("region", { name: "Notes on this draft" }).getByRole("article");

  // By mouse: a cloud round each, and words.
  await readyToDraw(teodor);
  for (const [i, { at, words }] of faults.entries()) {
    const [x, y, x2, y2] = at;
    await teodor.keyboard.press("c");
    await teodor.mouse.move(...(await place(x, y)));
    await teodor.mouse.down();
    await teodor.mouse.move(...(await place((x + x2) / 2, (y + y2) / 2)));
    await teodor.mouse.move(...(await place(x2, y2)));
    await teodor.mouse.up();
    await teodor.getByLabel("Words of the note").fill(words);
    await teodor.getByRole("button", { name: "Add request" }).click();
    await expect(notes).toHaveCount(i + 1);
    // It may be listed before the page that wrote it has taken its words away.
    await expect(teodor.getByLabel("Words of the note")).toBeHidden();
  }
  await check(teodor, "three faults marked");

  // By keyboard alone: corners by numbers.
  for (const [i, { at, words }] of faults.entries()) {
    const [x, y, x2, y2] = at;
    await expect(teodor.getByRole("application")).toBeFocused();
    await teodor.keyboard.press("c");
    await teodor.keyboard.press(";");
    await teodor.keyboard.type(`${x} ${y}`);
    await teodor.keyboard.press("Enter");
    await teodor.keyboard.type(`${x2} ${y2}`);
    await teodor.keyboard.press("Enter");
    await expect(teodor.getByLabel("Words of the note")).toBeFocused();
    await teodor.keyboard.type(`Again: ${words}`);
    await teodor.keyboard.press("Control+Enter");
    await expect(notes).toHaveCount(faults.length + i + 1);
    await expect(teodor.getByLabel("Words of the note")).toBeHidden();
  }

  // The bolt circle, through the middles of three of its holes.
  const values = teodor.getByTestId("markups").locator("text");
  await teodor.keyboard.press("q");
  await expect(teodor.locator("[data-catching=true]")).toBeVisible();
  for (const i of [0, 3, 7]) {
    const angle = (i * Math.PI) / 6;
    await teodor.mouse.move(...(await place(150 + 80 * Math.cos(angle), 100 + 80 * Math.sin(angle))));
    await expect(teodor.getByTestId("snap")).toHaveText("centre");
    await teodor.mouse.down();
    await teodor.mouse.up();
  }
  await expect(values.filter({ hasText: "Ø 160 mm" })).toBeVisible();
  // The bore against what its class allows, by the file's own circle.
  await teodor.keyboard.press("u");
  await teodor.keyboard.down("Shift");
  await teodor.mouse.move(...(await place(140, 110)));
  await teodor.mouse.down();
  await teodor.mouse.up();
  await teodor.keyboard.up("Shift");
  // π · 30², by the chords that the circle is drawn with.
  await expect(values.filter({ hasText: /^28\d\d mm²/ })).toBeVisible();
  await check(teodor, "a bolt circle and an area measured");

  // Two on one sheet, one of them without a line.
  await openBench(odalys, title).catch(() => odalys.goto(teodor.url()));
  await expect(odalys.locator("[data-sharp=true]")).toBeVisible();
  const marks = (page: Page) => page.getByTestId("markups").locator("g");
  const there = await marks(teodor).count();
  await expect(marks(odalys)).toHaveCount(there);
  const his = await placing(odalys);
  const line = async (page: Page, to: typeof place, y: number) => {
    await page.getByRole("application").focus();
    await page.keyboard.press("l");
    await page.keyboard.down("Alt");
    await page.mouse.move(...(await to(20, y)));
    await page.mouse.down();
    await page.mouse.move(...(await to(30, y + 2)));
    await page.mouse.move(...(await to(60, y + 6)));
    await page.mouse.up();
    await page.keyboard.up("Alt");
  };
  await teodor.context().setOffline(true);
  await line(teodor, place, 20);
  await line(teodor, place, 40);
  await expect(marks(teodor)).toHaveCount(there + 2);
  await expect(teodor.getByText("What you drew is kept by this browser")).toBeVisible();
  await line(odalys, his, 150);
  await expect(marks(odalys)).toHaveCount(there + 1);
  await teodor.context().setOffline(false);
  await expect(marks(odalys)).toHaveCount(there + 3);
  await expect(marks(teodor)).toHaveCount(there + 3);
});
