import assert from "node:assert/strict";
import { test } from "node:test";
import { BoxGeometry, Mesh, MeshBasicMaterial, Raycaster, Scene, Vector3 } from "three";
import type { SectionCut } from "../../web/src/api/types";
import { SectionDrawing } from "../../web/src/viewer/scene/sectionDrawing";

/** A square of 10 on the level plane at z = 5, as the server tells it, of component 3. */
const cut: SectionCut = {
  origin: { x: 0, y: 0, z: 5 },
  right: { x: 1, y: 0, z: 0 },
  up: { x: 0, y: 1, z: 0 },
  faces: [
    {
      component: 3,
      loops: [[0, 0, 10, 0, 10, 10, 0, 10]],
      open: [],
      area: 100,
      fill: [0, 0, 10, 0, 10, 10, 0, 0, 10, 10, 0, 10],
      hatching: [0, 5, 5, 10],
    },
  ],
};

const colours = new Map([[3, "#000000"]]);
const made = () => {
  const scene = new Scene();
  // About the model's middle, as the page draws it.
  const sections = new SectionDrawing(scene, [5, 5, 5], (c) => colours.get(c)!);
  sections.set([{ along: [0, 0, 1], at: 5 }]);
  return { scene, sections, fills: () => scene.children.filter((c): c is Mesh => c instanceof Mesh) };
};
const down = (x: number, y: number) => new Raycaster(new Vector3(x - 5, y - 5, 95), new Vector3(0, 0, -1));

test("a face that is cut is filled where it stands, and is met by a line of sight through it alone", () => {
  const { sections, fills } = made();
  assert.equal(sections.under(down(2, 3)), null);
  sections.fill([cut]);
  assert.equal(fills().length, 1);
  const met = sections.under(down(2, 3))!;
  assert.deepEqual([met.component, met.along], [3, [0, 0, 1]]);
  met.point.forEach((n, k) => assert.ok(Math.abs(n - [2, 3, 5][k]!) < 1e-9));
  assert.equal(sections.under(down(12, 3)), null);
});

test("what is filled takes the colour that its component has now, and is gone when the plane moves", () => {
  const { scene, sections, fills } = made();
  sections.fill([cut]);
  const colour = () => (fills()[0]!.material as MeshBasicMaterial).color.getHex();
  const before = colour();
  colours.set(3, "#c9a227");
  sections.recolour();
  assert.notEqual(colour(), before);
  const count = scene.children.length;
  sections.set([{ along: [0, 0, 1], at: 6 }]);
  assert.deepEqual([fills().length, count - scene.children.length], [0, 3]);
});

test("while it slides its outline is drawn, and what is taken away is drawn as a ghost without what is not", () => {
  const { scene, sections } = made();
  const body = new Mesh(new BoxGeometry(10, 10, 10));
  body.updateMatrixWorld(true);
  sections.trace([{ component: 3, mesh: body }]);
  const outline = scene.children.find((c) => "isLineSegments" in c)!;
  assert.equal(outline.visible, true);
  let seen: [boolean, boolean] | null = null;
  sections.drawVeil(() => (seen = [scene.overrideMaterial !== null, outline.visible]), []);
  assert.deepEqual(seen, [true, false]);
  assert.deepEqual([scene.overrideMaterial, outline.visible], [null, true]);
  sections.set([]);
  sections.drawVeil(() => assert.fail("nothing is taken away"), []);
});
