import { Raycaster, Vector3, type LineSegments } from "three";
import { MeshBVH } from "three-mesh-bvh";
import { edgeNear } from "./edgeNear";
import { minus, placeOf, rayOf, type Eye, type V3 } from "../camera/eye";
import type { CutHit, Hit } from "./hit";
import { nearestOn, type DrawnMesh } from "./nearestOn";
import { stretchAt } from "./partBlock";
import type { SectionDrawing } from "./sectionDrawing";
import { stretchOf } from "./sections";

/** A component that is drawn, with its edges. */
export type Drawn = DrawnMesh & { lines: LineSegments };

/** A model as it is drawn now. */
export type Drawing = {
  eye: Eye;
  size: { width: number; height: number };
  /** What is there to be picked. */
  all: readonly Drawn[];
  /** Where each component has gone, when the model is taken apart. */
  ways: readonly V3[] | null;
};

/** How near before a point something must lie that is still what the point lies on, of the window's height. */
const SKIN = 0.004;
/** Where a rim is looked for that is seen against nothing, CSS pixels beside it. */
const BESIDE = [
  [4, 0],
  [-4, 0],
  [0, 4],
  [0, -4],
] as const;

/** Finds what lies where in a model that is drawn. */
export class ScenePicker {
  private readonly rays = new Raycaster();

  /** @param now null as long as nothing is drawn */
  constructor(
    private readonly now: () => Drawing | null,
    private readonly sections: SectionDrawing,
    private readonly centre: V3,
  ) {
    this.rays.firstHitOnly = true;
  }

  /** Sends the ray through a place of the window, as far as sections leave anything there; false where they do not. */
  private aim({ eye, size }: Drawing, x: number, y: number) {
    const ray = rayOf(eye, x, y, size.width, size.height);
    const stretch = stretchOf(ray.from, ray.along, this.sections.cutting);
    if (!stretch) return false;
    this.rays.set(new Vector3(...minus(ray.from, this.centre)), new Vector3(...ray.along));
    [this.rays.near, this.rays.far] = stretch;
    return true;
  }

  private static meshesOf({ all }: Drawing) {
    for (const { geometry } of all.map((s) => s.mesh))
      geometry.boundsTree ??= new MeshBVH(geometry, { indirect: true });
    return all.map((s) => s.mesh);
  }

  /** The face that a section has cut under a place of the window, unless something lies before it. */
  cut(x: number, y: number): CutHit | null {
    const now = this.now();
    if (!now || !this.aim(now, x, y)) return null;
    this.rays.near *= 1 - 1e-9;
    const cut = this.sections.under(this.rays);
    if (!cut) return null;
    const first = this.rays.intersectObjects(ScenePicker.meshesOf(now), false)[0];
    return first && first.distance < cut.distance * (1 - 1e-7) ? null : cut;
  }

  /** What lies under a place of the window; edges first, where one is near and not hidden. */
  hit(x: number, y: number): Hit | null {
    const now = this.now();
    if (!now) return null;
    const meshes = ScenePicker.meshesOf(now);
    const under = ([dx, dy]: readonly [number, number]) =>
      this.aim(now, x + dx, y + dy) ? this.rays.intersectObjects(meshes, false)[0] : undefined;
    // A rim seen against nothing is taken from a little beside it.
    let hit = under([0, 0]);
    for (const beside of BESIDE) hit ??= under(beside);
    if (!hit || hit.faceIndex === undefined || hit.faceIndex === null) return null;
    const shown = now.all.find((s) => s.mesh === hit.object)!;
    const { centre } = this;
    const seen: V3 = [hit.point.x + centre[0], hit.point.y + centre[1], hit.point.z + centre[2]];
    const normal = hit.normal!.clone().transformDirection(hit.object.matrixWorld);
    if (normal.dot(this.rays.ray.direction) > 0) normal.negate();
    const near = edgeNear(shown.part, shown.lines.matrixWorld, centre, now.eye, { x, y, ...now.size }, seen);
    const point = near?.end ?? seen;
    return {
      component: shown.component,
      face: stretchAt(shown.part.faceStarts, hit.faceIndex),
      edge: near?.edge ?? null,
      isCorner: near?.end != null,
      point: now.ways ? minus(point, now.ways[shown.component]!) : point,
      normal: [normal.x, normal.y, normal.z],
    };
  }

  /** The point that is seen under a place of the window. */
  point(x: number, y: number): V3 | null {
    return (this.cut(x, y) ?? this.hit(x, y))?.point ?? null;
  }

  /** The face that comes nearest to a point of the model, whether or not it is taken apart. */
  nearest(point: V3): Hit | null {
    return nearestOn(this.now()?.all ?? [], this.centre, point);
  }

  /** Whether a point of the model is not seen: something that is drawn lies before it, or a section has taken it away. */
  isUnseen(point: V3): boolean {
    const now = this.now();
    if (!now) return false;
    const { x, y } = placeOf(now.eye, point, now.size.width, now.size.height);
    if (!this.aim(now, x, y)) return true;
    const { rays } = this;
    rays.far = Math.min(rays.far, rays.ray.origin.distanceTo(new Vector3(...minus(point, this.centre))));
    // What the point itself lies on is not before it.
    rays.far -= now.eye.height * SKIN;
    return (
      rays.far <= rays.near ||
      [...this.sections.fills, ...ScenePicker.meshesOf(now)].some((m) => rays.intersectObject(m, false).length > 0)
    );
  }
}
