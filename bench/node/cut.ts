/**
 * A plane that slides through a body of a million triangles: its outline as the page draws it, beside the bare walk of the tree that it is
 * found by. Told as JSON, in milliseconds, for `./froe bench scenes`; no test, for it says how soon.
 */
import { BufferGeometry, Mesh, Plane, TorusKnotGeometry, Vector3 } from "three";
import { MeshBVH } from "three-mesh-bvh";
import { Strokes, strokesOn } from "../../web/src/viewer/scene/strokesOn";

const mesh = new Mesh(new TorusKnotGeometry(100, 30, 2000, 250) as BufferGeometry);
mesh.updateMatrixWorld(true);
const { geometry } = mesh;
const from = performance.now();
const tree = (geometry.boundsTree = new MeshBVH(geometry, { indirect: true }));
const built = performance.now() - from;

/** What the library's own walk takes: the boxes that the plane meets, and their triangles. */
function bare(plane: Plane): number {
  let met = 0;
  tree.shapecast({
    intersectsBounds: (box) => plane.intersectsBox(box),
    intersectsTriangle: (t) => {
      const [a, b, c] = [plane.distanceToPoint(t.a), plane.distanceToPoint(t.b), plane.distanceToPoint(t.c)];
      if (!(a >= 0 === b >= 0 && b >= 0 === c >= 0)) met++;
      return false;
    },
  });
  return met;
}

const planes = Array.from({ length: 40 }, (_, i) => new Plane(new Vector3(1, 0.3, 0.2).normalize(), -80 + i * 4));
const times: { ours: number[]; bare: number[] } = { ours: [], bare: [] };
let strokes = 0;
for (let round = 0; round < 5; round++)
  for (const plane of planes) {
    const into = new Strokes();
    let at = performance.now();
    strokesOn(mesh, plane, [], into);
    if (round > 0) times.ours.push(performance.now() - at);
    strokes = Math.max(strokes, into.found.length / 6);
    at = performance.now();
    bare(plane);
    if (round > 0) times.bare.push(performance.now() - at);
  }
const median = (all: number[]) => all.sort((a, b) => a - b)[Math.floor(all.length / 2)]!;
console.log(
  JSON.stringify({
    ...{ ours: median(times.ours), bare: median(times.bare), built, strokes },
    triangles: geometry.index!.count / 3,
  }),
);
