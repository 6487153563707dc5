import type { Page } from "@playwright/test";
import { expect } from "./house";

/** Share of the sheet's picture that is dark enough to be ink, and of it that is coloured. */
export const ink = (page: Page) =>
  page
    .getByRole("application")
    .locator("canvas")
    .first()
    .evaluate((c: HTMLCanvasElement) => {
      const data = c.getContext("2d")!.getImageData(0, 0, c.width, c.height).data;
      let dark = 0;
      let coloured = 0;
      for (let i = 0; i < data.length; i += 4) {
        if (data[i + 3]! < 128 || data[i]! + data[i + 1]! + data[i + 2]! > 600) continue;
        dark++;
        if (Math.abs(data[i]! - data[i + 2]!) > 60) coloured++;
      }
      return { dark, coloured };
    });

/** Does over the API what the page would, for what is not looked at here. */
export async function post(page: Page, path: string, data: unknown): Promise<Record<string, string>> {
  const { formToken } = (await (await page.request.get("/api/session")).json()) as { formToken: string };
  const answer = await page.request.post(path, { data, headers: { "X-Froe-Form": formToken } });
  expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true);
  return (await answer.json()) as Record<string, string>;
}

/** Registers a document with a file and gives its id. */
export async function registered(page: Page, number: string, name: string, file: Buffer): Promise<string> {
  const { id } = await post(page, `/api/uploads?name=${name}`, file);
  const state = async () => ((await (await page.request.get(`/api/uploads/${id}`)).json()) as { state: string }).state;
  await expect.poll(state, { timeout: 120_000 }).toBe("read");
  const made = { number, title: name, kind: "drawing", discipline: "Structures", upload: id, reason: "" };
  return (await post(page, "/api/documents", made)).document!;
}

/** Sends documents for review and opens the package. */
export async function sentAndOpened(page: Page, title: string, documents: string[]) {
  const plans = (await (await page.request.get("/api/plans")).json()) as { id: string; name: string }[];
  const plan = plans.find((p) => p.name === "Checker, then chief")!.id;
  const sent = { title, coveringNote: "", plan, documents, inform: [] };
  const { id } = await post(page, "/api/packages", { key: crypto.randomUUID(), ...sent });
  await page.goto(`/packages/${id}`);
  await expect(page.locator("[data-sharp=true]")).toBeVisible();
}
