import { BufferAttribute, BufferGeometry, Color, Matrix4, type Mesh } from "three";
import type { PartFacts } from "../../api/types";
import type { V3 } from "../camera/eye";
import { isClosed } from "./closed";
import { coarseCorners } from "./coarse";
import { readPart, type PartMesh } from "./partBlock";
import { after, type Placement } from "./tree";

/** What a part is drawn from, however often it stands in the model. */
export type PartGeometry = {
  part: PartMesh;
  isClosed: boolean;
  mesh: BufferGeometry;
  lines: BufferGeometry;
  /** The mesh as it is drawn while it moves, where it is large; made when it is first asked for. */
  coarse: () => BufferGeometry;
};

/** Parts of more triangles are drawn with fewer while they move, on a machine that is slow. */
export const HEAVY = 30_000;

/** A part that has no colour of its own. */
export const GREY = "#b9b6ae";

/** Makes what a part is drawn from. */
export function geometryOf(facts: PartFacts, bytes: ArrayBuffer): PartGeometry {
  const part = readPart(bytes, facts.block, facts.box!);
  const mesh = new BufferGeometry();
  mesh.setAttribute("position", new BufferAttribute(part.points, 3));
  mesh.setAttribute("normal", new BufferAttribute(part.normals, 3, true));
  mesh.setIndex(new BufferAttribute(part.corners, 1));
  const colours = facts.faceColours;
  if (colours) {
    // Where some faces have colours of their own, every point has one.
    const values = new Float32Array(part.points.length);
    const usual = new Color(facts.colour ?? GREY);
    for (let face = 0; face + 1 < part.faceStarts.length; face++) {
      const own = colours[face] ? new Color(colours[face]) : usual;
      for (let i = part.faceStarts[face]! * 3; i < part.faceStarts[face + 1]! * 3; i++)
        own.toArray(values, part.corners[i]! * 3);
    }
    mesh.setAttribute("color", new BufferAttribute(values, 3));
  }
  const lines = new BufferGeometry();
  lines.setAttribute("position", new BufferAttribute(part.strokes, 3));
  let coarse: BufferGeometry | null = null;
  return {
    ...{ part, mesh, lines, isClosed: isClosed(part) },
    coarse: () => {
      if (part.corners.length <= HEAVY * 3) return mesh;
      if (!coarse) {
        const [x0, y0, z0, x1, y1, z1] = facts.box as [number, number, number, number, number, number];
        coarse = new BufferGeometry();
        for (const name of Object.keys(mesh.attributes)) coarse.setAttribute(name, mesh.getAttribute(name));
        const corners = coarseCorners(part.points, part.corners, [x1 - x0, y1 - y0, z1 - z0], HEAVY);
        coarse.setIndex(new BufferAttribute(corners, 1));
      }
      return coarse;
    },
  };
}

/** Draws with some meshes coarse. What is pressed is looked for in the whole mesh, whatever was drawn: they are whole again afterwards. */
export function coarsely(some: readonly { mesh: Mesh; coarse: () => BufferGeometry }[], draw: () => void) {
  const whole = some.map(({ mesh }) => mesh.geometry);
  for (const { mesh, coarse } of some) mesh.geometry = coarse();
  draw();
  some.forEach(({ mesh }, i) => (mesh.geometry = whole[i]!));
}

/** From the least corner of a part's box to where it is drawn: about the model's middle, so that nothing is far from nought. */
export function matrixOf(placed: Placement, box: readonly number[], centre: V3): Matrix4 {
  const m = after(placed, [1, 0, 0, box[0]!, 0, 1, 0, box[1]!, 0, 0, 1, box[2]!]);
  const rows = [0, 1, 2].flatMap((k) => [m[4 * k]!, m[4 * k + 1]!, m[4 * k + 2]!, m[4 * k + 3]! - centre[k]!]);
  return new Matrix4().set(...([...rows, 0, 0, 0, 1] as Parameters<Matrix4["set"]>));
}
