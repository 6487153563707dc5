import { Vector3, type Matrix4, type Mesh } from "three";
import { MeshBVH } from "three-mesh-bvh";
import type { V3 } from "../camera/eye";
import type { Hit } from "./hit";
import { stretchAt, type PartMesh } from "./partBlock";

/** The mesh of a component that is drawn; `home` is where it stands when the model is whole, about its middle. */
export type DrawnMesh = { component: number; mesh: Mesh; part: PartMesh; home: Matrix4 };

/** The face of some components that comes nearest to a point of the model; null where there is none. @param centre the model's middle */
export function nearestOn(all: readonly DrawnMesh[], centre: V3, point: V3): Hit | null {
  const about = new Vector3(...point).sub(new Vector3(...centre));
  let [best, found] = [Infinity, null as Hit | null];
  for (const { component, mesh, part, home } of all) {
    const { geometry } = mesh;
    geometry.boundsTree ??= new MeshBVH(geometry, { indirect: true });
    const tree = geometry.boundsTree as MeshBVH;
    const near = tree.closestPointToPoint(about.clone().applyMatrix4(home.clone().invert()));
    if (!near) continue;
    const away = near.point.clone().applyMatrix4(home).distanceTo(about);
    if (away >= best) continue;
    const triangle = tree.resolveTriangleIndex(near.faceIndex);
    const at = ([0, 1, 2] as const).map((k) =>
      new Vector3().fromArray(part.points, part.corners[3 * triangle + k]! * 3),
    );
    const [a, b, c] = at as [Vector3, Vector3, Vector3];
    const normal = b.sub(a).cross(c.sub(a)).transformDirection(home);
    best = away;
    found = {
      ...{ component, face: stretchAt(part.faceStarts, triangle), edge: null },
      ...{ point, normal: [normal.x, normal.y, normal.z] },
    };
  }
  return found;
}
