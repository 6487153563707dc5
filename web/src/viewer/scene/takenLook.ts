import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  Float32BufferAttribute,
  LineBasicMaterial,
  LineSegments,
  type Matrix4,
  Mesh,
  MeshBasicMaterial,
  type Plane,
  Points,
  PointsMaterial,
  Vector3,
} from "three";
import type { Hit } from "./hit";
import type { V3 } from "../camera/eye";
import type { PartMesh } from "./partBlock";

/** What is shown as taken: a face, an edge, the end of one. */
export type TakenOf = Pick<Hit, "component" | "face" | "edge" | "isCorner" | "point">;

const ACCENT = "#17857a";
/** A corner is as wide, CSS pixels. */
const DOT = 9;

/** How what is taken of a model looks. */
export class TakenLook {
  private readonly line = new LineBasicMaterial({ color: ACCENT, depthTest: false });
  private readonly dot = new PointsMaterial({ color: ACCENT, depthTest: false, size: DOT, sizeAttenuation: false });
  private readonly face = new MeshBasicMaterial({
    color: ACCENT,
    transparent: true,
    opacity: 0.55,
    side: DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: -2,
    polygonOffsetUnits: -2,
  });

  cutBy(planes: Plane[]) {
    for (const material of [this.line, this.dot, this.face]) material.clippingPlanes = planes;
  }

  /** @param home from the part's coordinates to those about `centre`, when the model is whole */
  of(taken: TakenOf, part: PartMesh, mesh: Mesh, home: Matrix4, centre: V3) {
    const one = this.shapeOf(taken, part, mesh, home, centre);
    one.matrixAutoUpdate = false;
    one.matrix.copy(mesh.matrix);
    one.updateMatrixWorld(true);
    return one;
  }

  private shapeOf({ edge, face, isCorner, point }: TakenOf, part: PartMesh, mesh: Mesh, home: Matrix4, centre: V3) {
    const geometry = new BufferGeometry();
    if (edge === null) {
      const [from, to] = [part.faceStarts[face]! * 3, part.faceStarts[face + 1]! * 3];
      geometry.setAttribute("position", mesh.geometry.getAttribute("position"));
      geometry.setIndex(new BufferAttribute(part.corners.subarray(from, to), 1));
      return new Mesh(geometry, this.face);
    }
    const strokes = part.strokes.slice(part.lineStarts[edge]! * 6, part.lineStarts[edge + 1]! * 6);
    if (isCorner) {
      const at = new Vector3(...point).sub(new Vector3(...centre));
      const far = (i: number) => new Vector3().fromArray(strokes, i).applyMatrix4(home).distanceTo(at);
      const end = far(0) <= far(strokes.length - 3) ? 0 : strokes.length - 3;
      geometry.setAttribute("position", new Float32BufferAttribute(strokes.slice(end, end + 3), 3));
      const dot = new Points(geometry, this.dot);
      dot.renderOrder = 3;
      return dot;
    }
    geometry.setAttribute("position", new Float32BufferAttribute(strokes, 3));
    const line = new LineSegments(geometry, this.line);
    line.renderOrder = 2;
    return line;
  }
}
