import assert from "node:assert/strict";
import { test } from "node:test";
import type { FileMatch } from "../../web/src/api/types";
import { announceBy } from "../../web/src/ui/announce";
import { named, pathOf } from "../../web/src/upload/named";
import { Arrivals, filesOf, filledIn, goesInto, isModel, lacking, type Arriving } from "../../web/src/upload/arriving";

const row = (id: number): Arriving => ({
  id,
  file: { name: `${id}.dxf`, size: 1 } as File,
  share: 1,
  state: null,
  fault: null,
  refusal: "Given twice.",
  canRetry: false,
  match: null,
  isEdited: false,
  isSorted: false,
  number: "",
  title: "",
  kind: "drawing",
  discipline: "",
});

test("what somebody types of a document's name stays; a discipline for all leaves the rest to be filled in", () => {
  const arrivals = new Arrivals();
  arrivals.rows = [row(1), row(2)];
  arrivals.edit([1, 2], { discipline: "Civil" });
  assert.deepEqual(
    arrivals.rows.map((r) => [r.discipline, r.isEdited, r.refusal]),
    [
      ["Civil", false, null],
      ["Civil", false, null],
    ],
  );
  arrivals.edit(2, { title: "" });
  arrivals.edit(2, { discipline: "Mount" });
  assert.deepEqual(
    arrivals.rows.map((r) => r.isEdited),
    [false, true],
  );
});

test("kind and discipline are filled in as the documents next to it have them, unless somebody or a folder said", () => {
  const match = {
    name: "1.dxf",
    document: null,
    number: "TO-1109",
    title: "Pier",
    draft: "",
    refusal: null,
    doubt: null,
    kind: "supporting file",
    discipline: "Civil",
  };
  const of = (row: Arriving) => {
    const { kind, discipline } = filledIn(row, match);
    return [kind, discipline];
  };
  assert.deepEqual(of(row(1)), ["supporting file", "Civil"]);
  assert.deepEqual(of({ ...row(1), isSorted: true, discipline: "Mount" }), [undefined, undefined]);
  assert.deepEqual(
    [filledIn(row(1), { ...match, kind: "model", discipline: null })].map((f) => [f.kind, f.discipline, f.number]),
    [["drawing", "", "TO-1109"]],
  );
  const arrivals = new Arrivals();
  arrivals.rows = [row(1)];
  arrivals.edit(1, { kind: "supporting file" });
  assert.equal(arrivals.rows[0]!.isSorted, true);
});

test("files of a model go into it, and what neither came with it nor is in the register is missing", () => {
  const read = (id: number, name: string, leaves: unknown[], beside: { name: string; isThere: boolean }[] = []) => ({
    ...row(id),
    file: { name, size: 1 } as File,
    state: { state: "read", report: { leaves, beside } } as unknown as Arriving["state"],
  });
  const rows = [
    read(1, "flag.gltf", [{}], [{ name: "flag.bin", isThere: true }]),
    read(2, "Flag.BIN", []),
    read(3, "readme.zip", []),
    read(
      4,
      "tray.stp",
      [{}],
      [
        { name: "pin.stp", isThere: false },
        { name: "foot.stp", isThere: false },
      ],
    ),
    read(5, "PIN.stp", [{}]),
  ];
  assert.deepEqual(
    rows.map((r) => goesInto(r, rows)?.id),
    [undefined, 1, undefined, undefined, undefined],
  );
  assert.deepEqual(
    rows.map((r) => lacking(r, rows)),
    [[], [], [], ["foot.stp"], []],
  );
});

test("what a file holds tells that it is a model, whatever stands next to its number", () => {
  const state = (extents: number[]) =>
    ({ state: "read", report: { leaves: [{ extents }] } }) as unknown as Arriving["state"];
  assert.deepEqual([null, state([0, 0, 1, 1]), state([0, 0, 0, 1, 1, 1])].map(isModel), [false, false, true]);
  const next = { number: "TO-1", title: "", kind: "drawing", discipline: null } as unknown as FileMatch;
  assert.equal(filledIn({ ...row(1), state: state([0, 0, 0, 1, 1, 1]) }, next).kind, "model");
  assert.equal(filledIn({ ...row(1), state: state([0, 0, 1, 1]), kind: "supporting file" }, next).kind, "drawing");
});

test("a file is called as keyboards write, whichever system it comes from, and so are its folders", () => {
  const file = Object.assign(new File(["x"], "BR-7 Bru\u0308cke.dxf", { lastModified: 5 }), {
    fromPath: "Top/U\u0308bersicht/BR-7.dxf",
  });
  const kept = named(file);
  assert.deepEqual([kept.name, kept.size, kept.lastModified], ["BR-7 Br\u00fccke.dxf", 1, 5]);
  assert.equal(pathOf(kept), "Top/\u00dcbersicht/BR-7.dxf");
  const plain = new File([], "plain.dxf");
  assert.equal(named(plain), plain);
});

test("of a folder that is dropped, what cannot be read is said and holds up none of the rest", async () => {
  let said = "";
  announceBy((s) => (said = s.words));
  const entry = (name: string, isRead: boolean) => ({
    isFile: true,
    fullPath: `/Top/${name}`,
    file: (done: (file: File) => void, fail: (e: Error) => void) =>
      isRead ? done(new File([], name)) : fail(new Error()),
  });
  const folder = (entries: object[]) => ({
    createReader: () => ({ readEntries: (done: (some: object[]) => void) => done(entries.splice(0)) }),
  });
  const top = folder([entry("a.dxf", true), entry("locked.dxf", false), entry("b.dxf", true)]);
  const files = await filesOf({ items: [{ webkitGetAsEntry: () => top }] } as unknown as DataTransfer);
  assert.deepEqual(
    files.map((f) => f.name),
    ["a.dxf", "b.dxf"],
  );
  assert.match(said, /left out: Top\/locked\.dxf\.$/);
});
