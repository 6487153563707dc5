import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  Plane,
  Vector3,
  type Object3D,
  type Raycaster,
  type Scene,
} from "three";
import type { SectionCut } from "../../api/types";
import { dot, type V3 } from "../camera/eye";
import { GREY } from "./partGeometry";
import { before, type Cutting } from "./sections";
import { Strokes, strokesOn } from "./strokesOn";

/** A body that may be cut: its mesh stands about the model's middle. */
type Body = { component: number; mesh: Mesh };

/** What sections do to a model that is drawn: they take away, and show what is cut. */
export class SectionDrawing {
  /** What every body and line of the model is cut by. */
  planes: Plane[] = [];
  cutting: readonly Cutting[] = [];
  private readonly outline = new LineSegments(new BufferGeometry(), new LineBasicMaterial({ color: "#9c3f1d" }));
  private caps: (Mesh | LineSegments)[] = [];
  private readonly components = new Map<Object3D, number>();
  /** What is taken away, where it is to be seen all the same. */
  private readonly veil = new MeshLambertMaterial({
    color: GREY,
    transparent: true,
    opacity: 0.13,
    depthWrite: false,
    side: DoubleSide,
    clipIntersection: true,
  });

  constructor(
    private readonly scene: Scene,
    private readonly centre: V3,
    private readonly colourOf: (component: number) => string,
  ) {
    this.outline.frustumCulled = false;
    this.outline.visible = false;
    scene.add(this.outline);
  }

  get isCutting() {
    return this.cutting.length > 0;
  }

  /** Cuts by planes; what was filled is no longer true. */
  set(cutting: readonly Cutting[]) {
    this.cutting = cutting;
    this.planes = cutting.map((c) => this.planeOf(c));
    this.veil.clippingPlanes = this.planes.map((p) => p.clone().negate());
    this.dropCaps();
  }

  /** three leaves what lies before its planes, and counts from the model's middle. */
  private planeOf({ along, at }: Cutting) {
    return new Plane(new Vector3(...along).negate(), at - dot(along, this.centre));
  }

  /** Draws where the planes meet some bodies, at once and without what is inside. */
  trace(bodies: readonly Body[]) {
    const strokes = new Strokes();
    for (const [i, plane] of this.planes.entries()) {
      const others = this.planes.filter((_, k) => k !== i);
      for (const { mesh } of bodies) strokesOn(mesh, plane, others, strokes);
    }
    this.outline.geometry.dispose();
    this.outline.geometry = new BufferGeometry();
    this.outline.geometry.setAttribute("position", new BufferAttribute(strokes.found, 3));
    this.outline.visible = strokes.found.length > 0;
  }

  /** Fills what the planes cut: one section for each of them. */
  fill(cuts: readonly SectionCut[]) {
    this.dropCaps();
    this.outline.visible = false;
    cuts.forEach((cut, i) => {
      const own = this.cutting[i];
      if (!own) return;
      const others = this.planes.filter((_, k) => k !== i);
      const { origin: o, right: r, up: u } = cut;
      const points = (numbers: readonly number[]) => {
        const to = new Float32Array((numbers.length / 2) * 3);
        for (let k = 0; k < numbers.length / 2; k++) {
          const [a, b] = [numbers[2 * k]!, numbers[2 * k + 1]!];
          to[3 * k] = o.x + a * r.x + b * u.x - this.centre[0];
          to[3 * k + 1] = o.y + a * r.y + b * u.y - this.centre[1];
          to[3 * k + 2] = o.z + a * r.z + b * u.z - this.centre[2];
        }
        return to;
      };
      for (const face of cut.faces) {
        const fill = new Mesh(
          geometryOf(points(face.fill)),
          new MeshBasicMaterial({
            color: this.paleOf(face.component),
            side: DoubleSide,
            clippingPlanes: others,
            polygonOffset: true,
            polygonOffsetFactor: 2,
            polygonOffsetUnits: 2,
          }),
        );
        this.components.set(fill, face.component);
        const strokes = [...face.loops.map((l) => roundOf(l, true)), ...face.open.map((l) => roundOf(l, false))].flat();
        const [outline, hatching] = ["#23262a", "#5b5f63"].map(
          (color) => new LineBasicMaterial({ color, clippingPlanes: others }),
        );
        this.add(
          fill,
          new LineSegments(geometryOf(points(strokes)), outline!),
          new LineSegments(geometryOf(points(face.hatching)), hatching!),
        );
      }
    });
  }

  /** What is cut of a component is paler than its outside, so that hatching reads on it. */
  private paleOf(component: number) {
    return new Color(this.colourOf(component)).lerp(new Color("#ffffff"), 0.35);
  }

  /** Gives what is filled the colours that components have now. */
  recolour() {
    for (const [fill, component] of this.components)
      ((fill as Mesh).material as MeshBasicMaterial).color.copy(this.paleOf(component));
  }

  private add(...objects: (Mesh | LineSegments)[]) {
    for (const one of objects) {
      one.matrixAutoUpdate = false;
      this.caps.push(one);
      this.scene.add(one);
    }
  }

  private dropCaps() {
    for (const one of this.caps) {
      this.scene.remove(one);
      one.geometry.dispose();
      (one.material as MeshBasicMaterial).dispose();
    }
    this.caps = [];
    this.components.clear();
  }

  /** Draws once more what was taken away, as a ghost. @param lines what is not drawn of it */
  drawVeil(render: () => void, lines: readonly Object3D[]) {
    if (!this.isCutting) return;
    const seen = [...lines, ...this.caps, this.outline].filter((o) => o.visible);
    for (const one of seen) one.visible = false;
    this.scene.overrideMaterial = this.veil;
    render();
    this.scene.overrideMaterial = null;
    for (const one of seen) one.visible = true;
  }

  /** What fills the faces that are cut. */
  get fills() {
    return this.caps.filter((c) => this.components.has(c));
  }

  /** The nearest face that is cut under a ray, which begins and ends where the sections leave something. */
  under(rays: Raycaster): { component: number; point: V3; along: V3; distance: number } | null {
    const hit = rays.intersectObjects([...this.fills], false)[0];
    if (!hit) return null;
    const point: V3 = [hit.point.x + this.centre[0], hit.point.y + this.centre[1], hit.point.z + this.centre[2]];
    const own = this.cutting.reduce((a, b) => (Math.abs(before(point, b)) < Math.abs(before(point, a)) ? b : a));
    return { component: this.components.get(hit.object)!, point, along: own.along, distance: hit.distance };
  }

  dispose() {
    this.dropCaps();
    this.outline.geometry.dispose();
    this.outline.material.dispose();
    this.veil.dispose();
  }
}

const geometryOf = (points: Float32Array) => {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(points, 3));
  return geometry;
};

/** The strokes of a line of points, four numbers each. */
function roundOf(line: readonly number[], isClosed: boolean): number[] {
  const strokes: number[] = [];
  const count = line.length / 2;
  for (let i = 0; i + (isClosed ? 0 : 1) < count; i++) {
    const k = (i + 1) % count;
    strokes.push(line[2 * i]!, line[2 * i + 1]!, line[2 * k]!, line[2 * k + 1]!);
  }
  return strokes;
}
