import { DoubleSide, MeshLambertMaterial, type Plane } from "three";

/** What components are drawn with: matt, each kind once. */
export class PartMaterials {
  private readonly made = new Map<string, MeshLambertMaterial>();
  private planes: Plane[] = [];

  /** @param byFace whether each point has a colour of its own */
  of(colour: string, opacity: number, byFace: boolean): MeshLambertMaterial {
    const key = `${colour}/${opacity}/${byFace}`;
    let material = this.made.get(key);
    if (!material) {
      material = new MeshLambertMaterial({
        color: byFace ? "#ffffff" : colour,
        vertexColors: byFace,
        side: DoubleSide,
        transparent: opacity < 1,
        opacity,
        depthWrite: opacity === 1,
        // Edges lie on the faces they bound.
        polygonOffset: true,
        polygonOffsetFactor: 1,
        polygonOffsetUnits: 1,
        clippingPlanes: this.planes,
      });
      this.made.set(key, material);
    }
    return material;
  }

  /** Cuts whatever is drawn with them, now and later. */
  cutBy(planes: Plane[]) {
    this.planes = planes;
    for (const material of this.made.values()) material.clippingPlanes = planes;
  }

  dispose() {
    for (const material of this.made.values()) material.dispose();
  }
}
