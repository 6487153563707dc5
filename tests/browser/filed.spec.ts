import { readFile } from "node:fs/promises";
import { expect, test } from "./house";
import { as, check } from "./person";
import { ink, registered, sentAndOpened } from "./sheet";

test("a picture that lies on a drawing is seen beneath its lines when its file is in the package", async ({
  browser,
}) => {
  const odalys = await as(browser, "Odalys Brandvold");
  const pairs = (words: string) => words.trim().replace(/ *\| */g, "\n");
  const drawing = `0|SECTION|2|HEADER|9|$INSUNITS|70|4|0|ENDSEC|0|SECTION|2|ENTITIES
    |0|LINE|8|0|10|0|20|0|11|400|21|300|0|LINE|8|0|10|0|20|300|11|400|21|0
    |0|IMAGE|8|0|10|100|20|75|11|1|21|0|12|0|22|1|13|200|23|150|340|AF
    |0|ENDSEC|0|SECTION|2|OBJECTS|0|IMAGEDEF|5|AF|1|C:\\site\\Wall.jpg|0|ENDSEC|0|EOF`;
  const photograph = await readFile(`${process.env.FROE_ROOT!}/demo/drawings/TO-1108_A1.jpg`);
  const documents = [
    await registered(odalys, "TO-7101", "survey.dxf", Buffer.from(pairs(drawing))),
    await registered(odalys, "TO-7102", "wall.jpg", photograph),
  ];
  await sentAndOpened(odalys, "Wall as it stands", documents);
  const picture = odalys.getByTestId("placed picture");
  await expect(picture).toBeVisible();
  await expect.poll(() => picture.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBeGreaterThan(100);
  // It lies in the middle half of the drawing, and moves with it.
  const share = async () => {
    const [all, own] = [await odalys.locator("[data-sharp] > img").boundingBox(), await picture.boundingBox()];
    return [(own!.x - all!.x) / all!.width, own!.width / all!.width].map((n) => Math.round(n * 100));
  };
  expect(await share()).toEqual([25, 50]);
  await odalys.locator("[data-sharp]").focus();
  for (const key of ["+", "+", "ArrowRight"]) await odalys.keyboard.press(key);
  await expect.poll(share).toEqual([25, 50]);
  await check(odalys, "a picture on a drawing");
});

const stream = (content: string, dictionary = "") =>
  `<< ${dictionary} /Length ${content.length} >>\nstream\n${content}\nendstream`;

/** A file of these objects, the first its catalogue. */
function pdf(objects: readonly string[]): Buffer {
  const body = objects.map((o, i) => `${i + 1} 0 obj\n${o}\nendobj\n`).join("");
  return Buffer.from(`%PDF-1.7\n${body}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\n%%EOF\n`, "latin1");
}

/** A page of a form: what was filled in has an appearance of its own, black but for the words. */
function form(): Buffer {
  const look = "/Type /XObject /Subtype /Form /BBox [0 0 150 60] /Resources << /Font << /F 5 0 R >> >>";
  return pdf([
    "<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [6 0 R] >> >>",
    "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 300] /Contents 4 0 R /Annots [6 0 R] >>",
    stream("0.5 w 20 20 360 260 re S"),
    "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
    "<< /Type /Annot /Subtype /Widget /FT /Tx /T (by) /V (Seen by Ansgar) /F 4 /Rect [200 40 350 100] /AP << /N 7 0 R >> >>",
    stream("0 0 150 60 re f 1 g BT /F 16 Tf 8 24 Td (Seen by Ansgar) Tj ET", look),
  ]);
}

/** A page with two words in a font that is not in the file. */
const lettered = () =>
  pdf([
    "<< /Type /Catalog /Pages 2 0 R >>",
    "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 300] /Contents 4 0 R /Resources << /Font << /F 5 0 R >> >> >>",
    stream("BT /F 80 Tf 40 100 Td <907D96CA94D48D86> Tj ET"),
    "<< /Type /Font /Subtype /Type0 /BaseFont /MS-Gothic /Encoding /90ms-RKSJ-H /DescendantFonts [6 0 R] >>",
    "<< /Type /Font /Subtype /CIDFontType2 /BaseFont /MS-Gothic /CIDSystemInfo << /Registry (Adobe) /Ordering (Japan1) /Supplement 2 >> /DW 1000 /FontDescriptor 7 0 R >>",
    "<< /Type /FontDescriptor /FontName /MS-Gothic /Flags 4 /FontBBox [0 -200 1000 900] /ItalicAngle 0 /Ascent 800 /Descent -200 /StemV 80 >>",
  ]);

test("what stands in the fields of a form is seen on the bench and found", async ({ browser }) => {
  const odalys = await as(browser, "Odalys Brandvold");
  await sentAndOpened(odalys, "A form, filled in", [await registered(odalys, "TO-7103", "form.pdf", form())]);
  // The field alone is so dark: 150 by 60 of 400 by 300 points, as the bench draws them.
  await expect.poll(async () => (await ink(odalys)).dark).toBeGreaterThan(8000);
  await odalys.getByRole("application").focus();
  await odalys.keyboard.press("/");
  await odalys.keyboard.type("ansgar");
  await expect(odalys.getByText("Seen by Ansgar").first()).toBeVisible();
});

test("what is written in a font that the file leaves out is drawn in another and found", async ({ browser }) => {
  const odalys = await as(browser, "Odalys Brandvold");
  const document = await registered(odalys, "TO-7104", "lettered.pdf", lettered());
  const lent = odalys.waitForResponse((r) => r.url().includes("/api/page-fonts?") && r.status() === 200);
  await sentAndOpened(odalys, "Lettered elsewhere", [document]);
  expect((await lent).headers()["x-froe-font"]).toContain("JP");
  await expect.poll(async () => (await ink(odalys)).dark).toBeGreaterThan(2000);
  await odalys.getByRole("application").focus();
  await odalys.keyboard.press("/");
  await odalys.getByLabel("Words to find").fill("図面番号");
  await expect(odalys.getByText("1 place")).toBeVisible();
});

/** A page of a hundred thousand short strokes. */
function heavy(): Buffer {
  const stroke = (i: number) => `${20 + (i % 500)} ${20 + i / 400} m ${20.4 + (i % 500)} ${20.8 + i / 400} l`;
  return pdf([
    "<< /Type /Catalog /Pages 2 0 R >>",
    "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
    "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 540 300] /Contents 4 0 R >>",
    stream(`0 w ${Array.from({ length: 100_000 }, (_, i) => stroke(i)).join("\n")} S`),
  ]);
}

test("a page that draws much comes in tiles, and from its file where one looks closer", async ({ browser }) => {
  const odalys = await as(browser, "Odalys Brandvold");
  const document = await registered(odalys, "TO-7105", "heavy.pdf", heavy());
  const asked: string[] = [];
  odalys.on("request", (r) => asked.push(new URL(r.url()).pathname));
  const tiles = () => asked.filter((path) => /\/tiles\/\d/.test(path)).length;
  const isFetched = () => asked.some((path) => /\/drafts\/[^/]+\/file$/.test(path));
  await sentAndOpened(odalys, "More than a page should draw", [document]);
  expect(tiles()).toBeGreaterThan(0);
  expect(isFetched()).toBe(false);
  await expect.poll(async () => (await ink(odalys)).dark).toBeGreaterThan(5000);
  const sheet = odalys.locator("[data-sharp]");
  await sheet.focus();
  for (let i = 0; i < 10; i++) await odalys.keyboard.press("+");
  await expect.poll(isFetched).toBe(true);
  await expect(sheet).toHaveAttribute("data-sharp", "true");
  await odalys.keyboard.press("0");
  await expect(sheet).toHaveAttribute("data-sharp", "true");
});
