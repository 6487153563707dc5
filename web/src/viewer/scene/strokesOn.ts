import { Plane, Vector3, type Mesh } from "three";
import { MeshBVH } from "three-mesh-bvh";

const own = new Plane();
const [p, q] = [new Vector3(), new Vector3()];

/** Where a plane meets a mesh, as far as others leave it: adds six numbers a stroke. */
export function strokesOn(mesh: Mesh, plane: Plane, others: readonly Plane[], into: number[]) {
  const { geometry, matrixWorld } = mesh;
  geometry.boundsTree ??= new MeshBVH(geometry, { indirect: true });
  // In the mesh's own axes; its scale stays in the distances, which are only compared.
  own.copy(plane).applyMatrix4(matrixWorld.clone().invert());
  const { x, y, z } = own.normal;
  const [ax, ay, az, away] = [Math.abs(x), Math.abs(y), Math.abs(z), own.constant];
  const [m0, m1, m2, , m4, m5, m6, , m8, m9, m10, , m12, m13, m14] = matrixWorld.elements;
  const meet = (to: Vector3, a: Vector3, b: Vector3, da: number, db: number) => {
    const share = da / (da - db);
    const [px, py, pz] = [a.x + share * (b.x - a.x), a.y + share * (b.y - a.y), a.z + share * (b.z - a.z)];
    to.x = m0 * px + m4 * py + m8 * pz + m12;
    to.y = m1 * px + m5 * py + m9 * pz + m13;
    to.z = m2 * px + m6 * py + m10 * pz + m14;
  };
  geometry.boundsTree.shapecast({
    intersectsBounds: ({ min, max }) => {
      const middle = (x * (min.x + max.x) + y * (min.y + max.y) + z * (min.z + max.z)) / 2 + away;
      const reach = (ax * (max.x - min.x) + ay * (max.y - min.y) + az * (max.z - min.z)) / 2;
      return Math.abs(middle) <= reach;
    },
    intersectsTriangle: ({ a, b, c }) => {
      const da = x * a.x + y * a.y + z * a.z + away;
      const db = x * b.x + y * b.y + z * b.z + away;
      const dc = x * c.x + y * c.y + z * c.z + away;
      const [isA, isB, isC] = [da >= 0, db >= 0, dc >= 0];
      if (isA === isB && isB === isC) return false;
      // The corner that is alone on its side: both strokes' ends lie on the sides that lead to it.
      if (isB === isC) {
        meet(p, a, b, da, db);
        meet(q, a, c, da, dc);
      } else if (isA === isC) {
        meet(p, b, a, db, da);
        meet(q, b, c, db, dc);
      } else {
        meet(p, c, a, dc, da);
        meet(q, c, b, dc, db);
      }
      for (const o of others) if (o.distanceToPoint(p) < -1e-6 && o.distanceToPoint(q) < -1e-6) return false;
      into.push(p.x, p.y, p.z, q.x, q.y, q.z);
      return false;
    },
  });
}
