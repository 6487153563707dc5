import { readFileSync, writeFileSync } from "node:fs";
import { expect, test } from "./house";
import { as, check, openBench, readyToDraw } from "./person";

const hex = (words: string) =>
  `<FEFF${[...Buffer.from(words, "utf16le").swap16()].map((b) => b.toString(16).padStart(2, "0")).join("")}>`.toUpperCase();

/** What somebody does in a reader of their own: they answer the question of these words, and put a box with words of theirs beside it. */
function answered(pdf: string, question: string): string {
  // The newest of each comes first.
  const objects = [...pdf.matchAll(/\n(\d+) 0 obj\n(<< [^]*?)\nendobj/g)]
    .map((m) => ({ id: m[1]!, body: m[2]! }))
    .reverse();
  const asked = objects.find((o) => o.body.includes("/Type /Annot") && o.body.includes(hex(question)))!;
  const page = objects.find((o) => /\/Type \/Page[^s]/.test(o.body) && o.body.includes(`${asked.id} 0 R`))!;
  const size = Number(/\/Size (\d+)/.exec(pdf.slice(pdf.lastIndexOf("trailer")))![1]);
  const root = /\/Root (\d+ \d+ R)/.exec(pdf.slice(pdf.lastIndexOf("trailer")))![1]!;
  const rect = /\/Rect \[([^\]]+)\]/.exec(asked.body)![1]!;
  const [x, y] = rect.split(" ").map(Number) as [number, number];
  const who = `/T ${hex("Kai Ohm")} /M (D:20261126120000Z)`;
  const added = [
    `<< /Type /Annot /Subtype /Text /Rect [${rect}] /F 30 /NM (k-1) ${who} /Contents ${hex("Only below 4 °C")} /IRT ${asked.id} 0 R /RT /R >>`,
    `<< /Type /Annot /Subtype /Square /Rect [${x} ${y - 40} ${x + 60} ${y - 10}] /F 4 /NM (k-2) ${who} /Contents ${hex("Sharp edge")} >>`,
  ];
  const before = pdf.lastIndexOf("startxref");
  const previous = /startxref\s+(\d+)/.exec(pdf.slice(before))![1]!;
  let out = pdf;
  const at: [string, number][] = [];
  const put = (id: string, body: string) => {
    at.push([id, out.length]);
    out += `${id} 0 obj\n${body}\nendobj\n`;
  };
  const ids = added.map((_, i) => String(size + i));
  put(page.id, page.body.replace(/\/Annots \[/, `/Annots [${ids.map((i) => `${i} 0 R`).join(" ")} `));
  added.forEach((body, i) => put(ids[i]!, body));
  const start = out.length;
  out += "xref\n" + at.map(([id, a]) => `${id} 1\n${String(a).padStart(10, "0")} 00000 n \n`).join("");
  return `${out}trailer\n<< /Size ${size + 2} /Root ${root} /Prev ${previous} >>\nstartxref\n${start}\n%%EOF\n`;
}

test("a page goes out as PDF, is answered in another reader and brought back, and the answer stands under the question", async ({
  browser,
}, info) => {
  const teodor = await as(browser, "Teodor Quill");
  await openBench(teodor, "Pier survey before the refit");
  const question = "How cold may the resin be injected?";
  await readyToDraw(teodor);
  await teodor.getByRole("application").focus();
  await teodor.keyboard.press("c");
  const box = (await teodor.getByRole("application").boundingBox())!;
  await teodor.mouse.move(box.x + 260, box.y + 160);
  await teodor.mouse.down();
  await teodor.mouse.move(box.x + 330, box.y + 200);
  await teodor.mouse.move(box.x + 360, box.y + 220);
  await teodor.mouse.up();
  await teodor.getByLabel("Words of the note").fill(question);
  await teodor.getByRole("radio", { name: "Question" }).click();
  await teodor.getByRole("button", { name: "Add question" }).click();
  await expect(teodor.getByLabel("Words of the note")).toBeHidden();

  await teodor.getByRole("button", { name: "Files" }).click();
  await check(teodor, "the files");
  const [sent] = await Promise.all([
    teodor.waitForEvent("download"),
    teodor.getByRole("button", { name: /^PDF, markups as annotations/ }).click(),
  ]);
  expect(sent.suggestedFilename()).toBe("TO-1106 A.1 marked.pdf");
  const pdf = readFileSync((await sent.path())!, "latin1");
  const file = info.outputPath("answered.pdf");
  writeFileSync(file, answered(pdf, question), "latin1");

  const field = teodor.getByLabel("A marked file to be brought in");
  await field.setInputFiles(file);
  await expect(teodor.getByText("Brought in: 1 reply, 1 new remark, 1 markup;")).toBeVisible();
  await check(teodor, "a marked file brought in");
  await field.setInputFiles(file);
  await expect(teodor.getByText(/^Nothing new was in it; \d+ were here already\.$/)).toBeVisible();
  // What came with the file is no longer only looked at: it can be answered and settled, and is taken up once.
  await teodor.getByRole("button", { name: /^Take up what came with the file/ }).click();
  await expect(teodor.getByText(/^Brought in: .*new remark/)).toBeVisible();
  await teodor.getByRole("button", { name: /^Take up what came with the file/ }).click();
  await expect(teodor.getByText(/^Nothing new was in it; \d+ were here already\.$/)).toBeVisible();
  await field.setInputFiles({ name: "x.pdf", mimeType: "application/pdf", buffer: Buffer.from("nothing") });
  await expect(teodor.getByText(/The file is neither PDF nor XFDF/)).toBeVisible();
  await teodor.keyboard.press("Escape");
  await expect(teodor.getByText("Kai Ohm, from outside, 26 November 2026: Only below 4 °C")).toBeVisible();
  await expect(teodor.getByText("Kai Ohm, from outside, 26 November 2026: Sharp edge")).toBeVisible();
});
