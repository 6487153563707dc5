import { DoubleSide, FrontSide, MeshLambertMaterial, type Plane } from "three";

/** What components are drawn with: matt, each kind once. */
export class PartMaterials {
  private readonly made = new Map<string, MeshLambertMaterial>();
  private planes: Plane[] = [];
  /** Those of which no back is seen as long as nothing is cut. */
  private readonly closed = new Set<MeshLambertMaterial>();

  /** @param byFace whether each point has a colour of its own @param isClosed whether what is drawn has no back to be seen */
  of(colour: string, opacity: number, byFace: boolean, isClosed: boolean): MeshLambertMaterial {
    // What is seen through shows its backs too.
    const isFrontOnly = isClosed && opacity === 1;
    const key = `${colour}/${opacity}/${byFace}/${isFrontOnly}`;
    let material = this.made.get(key);
    if (!material) {
      material = new MeshLambertMaterial({
        color: byFace ? "#ffffff" : colour,
        vertexColors: byFace,
        side: isFrontOnly && this.planes.length === 0 ? FrontSide : DoubleSide,
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
      if (isFrontOnly) this.closed.add(material);
    }
    return material;
  }

  /** Cuts whatever is drawn with them, now and later. */
  cutBy(planes: Plane[]) {
    this.planes = planes;
    for (const material of this.made.values()) {
      material.clippingPlanes = planes;
      // Cut open, a body shows its inside until what is cut is filled.
      const side = this.closed.has(material) && planes.length === 0 ? FrontSide : DoubleSide;
      if (material.side === side) continue;
      material.side = side;
      material.needsUpdate = true;
    }
  }

  dispose() {
    for (const material of this.made.values()) material.dispose();
  }
}
