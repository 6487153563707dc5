import { Plane, Vector3, type Mesh } from "three";
import { MeshBVH } from "three-mesh-bvh";

const own = new Plane();
/** The ends of the stroke that was found last. */
const ends = new Float64Array(6);
const [p, q] = [new Vector3(), new Vector3()];

/** Strokes as they are drawn, six numbers each, in room that grows with them. */
export class Strokes {
  private room = new Float32Array(6 * 1024);
  private length = 0;

  get found() {
    return this.room.subarray(0, this.length);
  }

  add(six: Float64Array) {
    if (this.length + 6 > this.room.length) {
      const more = new Float32Array(this.room.length * 2);
      more.set(this.room);
      this.room = more;
    }
    for (let k = 0; k < 6; k++) this.room[this.length + k] = six[k]!;
    this.length += 6;
  }
}

/** Where a plane meets a mesh, as far as others leave it. */
export function strokesOn(mesh: Mesh, plane: Plane, others: readonly Plane[], into: Strokes) {
  const { geometry, matrixWorld } = mesh;
  geometry.boundsTree ??= new MeshBVH(geometry, { indirect: true });
  const tree = geometry.boundsTree as MeshBVH;
  const [points, corners] = [geometry.getAttribute("position").array, geometry.index!.array];
  // In the mesh's own axes; its scale stays in the distances, which are only compared.
  own.copy(plane).applyMatrix4(matrixWorld.clone().invert());
  const { x, y, z } = own.normal;
  const [ax, ay, az, away] = [Math.abs(x), Math.abs(y), Math.abs(z), own.constant];
  const [m0, m1, m2, , m4, m5, m6, , m8, m9, m10, , m12, m13, m14] = matrixWorld.elements;
  /** Where the side between two points meets the plane, by where these begin in the list; @param at in the ends */
  const meet = (at: number, a: number, b: number, da: number, db: number) => {
    const share = da / (da - db);
    const px = points[a]! + share * (points[b]! - points[a]!);
    const py = points[a + 1]! + share * (points[b + 1]! - points[a + 1]!);
    const pz = points[a + 2]! + share * (points[b + 2]! - points[a + 2]!);
    ends[at] = m0 * px + m4 * py + m8 * pz + m12;
    ends[at + 1] = m1 * px + m5 * py + m9 * pz + m13;
    ends[at + 2] = m2 * px + m6 * py + m10 * pz + m14;
  };
  const isLeft = () => {
    p.fromArray(ends);
    q.fromArray(ends, 3);
    return others.every((o) => o.distanceToPoint(p) >= -1e-6 || o.distanceToPoint(q) >= -1e-6);
  };
  tree.shapecast({
    intersectsBounds: ({ min, max }) => {
      const middle = (x * (min.x + max.x) + y * (min.y + max.y) + z * (min.z + max.z)) / 2 + away;
      const reach = (ax * (max.x - min.x) + ay * (max.y - min.y) + az * (max.z - min.z)) / 2;
      return Math.abs(middle) <= reach;
    },
    // Triangle by triangle in the arrays themselves: what the library hands over one by one, it copies first.
    intersectsRange: (offset, count) => {
      for (let i = offset; i < offset + count; i++) {
        const t = 3 * tree.resolveTriangleIndex(i);
        const [a, b, c] = [3 * corners[t]!, 3 * corners[t + 1]!, 3 * corners[t + 2]!];
        const da = x * points[a]! + y * points[a + 1]! + z * points[a + 2]! + away;
        const db = x * points[b]! + y * points[b + 1]! + z * points[b + 2]! + away;
        const dc = x * points[c]! + y * points[c + 1]! + z * points[c + 2]! + away;
        const [isA, isB, isC] = [da >= 0, db >= 0, dc >= 0];
        if (isA === isB && isB === isC) continue;
        // The corner that is alone on its side: both ends of the stroke lie on the sides that lead to it.
        if (isB === isC) {
          meet(0, a, b, da, db);
          meet(3, a, c, da, dc);
        } else if (isA === isC) {
          meet(0, b, a, db, da);
          meet(3, b, c, db, dc);
        } else {
          meet(0, c, a, dc, da);
          meet(3, c, b, dc, db);
        }
        if (others.length === 0 || isLeft()) into.add(ends);
      }
      return false;
    },
  });
}
