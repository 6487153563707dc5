import { BufferAttribute, BufferGeometry, Color, Matrix4 } from "three";
import type { PartFacts } from "../../api/types";
import type { V3 } from "./eye";
import { readPart, type PartMesh } from "./partBlock";
import { after, type Placement } from "./tree";

/** What a part is drawn from, however often it stands in the model. */
export type PartGeometry = { part: PartMesh; mesh: BufferGeometry; lines: BufferGeometry };

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
  return { part, mesh, lines };
}

/** From the least corner of a part's box to where it is drawn: about the model's middle, so that nothing is far from nought. */
export function matrixOf(placed: Placement, box: readonly number[], centre: V3): Matrix4 {
  const m = after(placed, [1, 0, 0, box[0]!, 0, 1, 0, box[1]!, 0, 0, 1, box[2]!]);
  const rows = [0, 1, 2].flatMap((k) => [m[4 * k]!, m[4 * k + 1]!, m[4 * k + 2]!, m[4 * k + 3]! - centre[k]!]);
  return new Matrix4().set(...([...rows, 0, 0, 0, 1] as Parameters<Matrix4["set"]>));
}
