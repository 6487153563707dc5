import {
  BufferGeometry,
  DoubleSide,
  Float32BufferAttribute,
  LineBasicMaterial,
  LineSegments,
  type Matrix4,
  Mesh,
  MeshBasicMaterial,
  type Scene,
} from "three";
import type { ModelDimension } from "../../api/types";

/** How a model's file has drawn a dimension or a note, in the coordinates of its part. */
export type DrawnOnModel = NonNullable<ModelDimension["drawn"]>;

/** Something drawn, on the component that it is shown at. */
export type DrawnAt = { component: number; drawn: DrawnOnModel };

/** To be told from edges, on the light table and on the dark one: it stands beside the model as much as before it. */
const INK = "#2b7bbd";

/** Dimensions and notes as the file has drawn them, standing in space on their planes. */
export class StatedDrawing {
  private readonly line = new LineBasicMaterial({ color: INK });
  private readonly area = new MeshBasicMaterial({ color: INK, side: DoubleSide });
  private shown: readonly (LineSegments | Mesh)[] = [];

  constructor(private readonly scene: Scene) {}

  get isEmpty() {
    return this.shown.length === 0;
  }

  /**
   * @param of from the part's coordinates, counted from its box's least corner, to where its component is now, and that corner; null
   * where the component is not shown
   * @returns how far from the middle of the model it reaches
   */
  set(
    all: readonly DrawnAt[],
    of: (component: number) => { matrix: Matrix4; corner: readonly number[] } | null,
  ): number {
    this.clear();
    let far = 0;
    this.shown = all.flatMap(({ component, drawn }) => {
      const at = of(component);
      if (!at) return [];
      const from = (n: number, k: number) => n - at.corner[k % 3]!;
      const strokes = drawn.lines.flatMap((line) => {
        const along = line.map(from);
        return Array.from({ length: Math.max(0, along.length / 3 - 1) }, (_, i) =>
          along.slice(3 * i, 3 * i + 6),
        ).flat();
      });
      return [
        ...(strokes.length > 0 ? [new LineSegments(geometryOf(strokes), this.line)] : []),
        ...(drawn.areas.length > 0 ? [new Mesh(geometryOf(drawn.areas.map(from)), this.area)] : []),
      ].map((one) => {
        one.matrixAutoUpdate = false;
        one.matrix.copy(at.matrix);
        one.updateMatrixWorld(true);
        this.scene.add(one);
        one.geometry.computeBoundingSphere();
        const { center, radius } = one.geometry.boundingSphere!;
        far = Math.max(far, center.clone().applyMatrix4(at.matrix).length() + radius * at.matrix.getMaxScaleOnAxis());
        return one;
      });
    });
    return far;
  }

  private clear() {
    for (const one of this.shown) {
      this.scene.remove(one);
      one.geometry.dispose();
    }
    this.shown = [];
  }

  dispose() {
    this.clear();
    this.line.dispose();
    this.area.dispose();
  }
}

function geometryOf(numbers: readonly number[]) {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new Float32BufferAttribute(numbers as number[], 3));
  return geometry;
}
