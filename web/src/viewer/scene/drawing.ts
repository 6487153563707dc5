import {
  DirectionalLight,
  HemisphereLight,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  type Points,
  Raycaster,
  Scene,
  Vector3,
  WebGLRenderer,
} from "three";
import { acceleratedRaycast, MeshBVH } from "three-mesh-bvh";
import type { PartFacts, SceneFacts, SectionCut } from "../../api/types";
import { Cameras } from "./cameras";
import { edgeNear } from "./edgeNear";
import { nearestOn } from "./nearestOn";
import type { CutHit, Hit } from "./hit";
import { minus, placeOf, rayOf, type Eye, type V3 } from "./eye";
import { stretchAt } from "./partBlock";
import { StatedDrawing, type DrawnAt } from "./statedDrawing";
import { TakenLook, type TakenOf } from "./takenLook";
import { PartMaterials } from "./partMaterials";
import { coarsely, geometryOf, GREY, HEAVY, matrixOf, type PartGeometry } from "./partGeometry";
import { SectionDrawing } from "./sectionDrawing";
import { stretchOf, type Cutting } from "./sections";
import type { SceneTree } from "./tree";

/** How components are shown: as usual when they are not named. */
export type Look = {
  hidden: ReadonlySet<number>;
  ghost: ReadonlySet<number>;
  /** Colours that somebody gave them, #rrggbb. */
  colours: ReadonlyMap<number, string>;
};

type Shown = Pick<PartGeometry, "part" | "coarse"> & {
  component: number;
  mesh: Mesh;
  lines: LineSegments;
  /** Where it stands when the model is whole. */
  home: Matrix4;
  size: number;
  triangles: number;
};

const INK = "#23262a";
/** What is picked has this colour, whatever its own. */
const PICKED = "#79b8ad";
/** Most triangles of a frame while the model moves, on a machine that is slow. */
const MOVING = 60_000;
/** A frame that took longer than this makes the next ones simpler, milliseconds. */
const SLOW = 45;
/** How long nothing moves before the model is drawn in full, milliseconds. */
const REST = 140;
/** How near before a point something must lie that is still what the point lies on, of the window's height. */
const SKIN = 0.004;
/** Where a rim is looked for that is seen against nothing, CSS pixels beside it. */
const BESIDE = [
  [4, 0],
  [-4, 0],
  [0, 4],
  [0, -4],
] as const;

/** A model on a canvas. It draws when something changed, simpler while it moves on a slow machine, in full at rest. */
export class SceneDrawing {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly cameras: Cameras;
  private readonly sun = new DirectionalLight("#ffffff", 1.9);
  private readonly shown: Shown[] = [];
  private readonly byMesh = new Map<Mesh, Shown>();
  private readonly materials = new PartMaterials();
  private readonly ink = new LineBasicMaterial({ color: INK });
  private readonly faint = new LineBasicMaterial({ color: INK, transparent: true, opacity: 0.18 });
  private readonly takenLook = new TakenLook();
  /** What is shown as taken. */
  private taken: readonly (Mesh | LineSegments | Points)[] = [];
  private lastTaken: readonly TakenOf[] = [];
  private readonly stated = new StatedDrawing(this.scene);
  private lastStated: readonly DrawnAt[] = [];
  private readonly centre: V3;
  private readonly reach: number;
  private readonly rays = new Raycaster();
  private size = { width: 1, height: 1 };
  private eye: Eye | null = null;
  private frame = 0;
  private rest = 0;
  private isSlow = false;
  private last = 0;
  private look: Look = { hidden: new Set(), ghost: new Set(), colours: new Map() };
  private readonly sections: SectionDrawing;
  private isVeiled = false;
  /** Where each component has gone, when the model is taken apart. */
  private ways: readonly V3[] | null = null;
  private picked: readonly number[] = [];
  private isEnded = false;

  /** Throws when this machine cannot draw it. */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly facts: SceneFacts,
    private readonly tree: SceneTree,
    bytes: ArrayBuffer,
    private readonly onDrawn: () => void,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true, powerPreference: "high-performance" });
    this.renderer.setClearColor(0x000000, 0);
    const [x0 = 0, y0 = 0, z0 = 0, x1 = 1, y1 = 1, z1 = 1] = facts.box ?? [];
    this.centre = [(x0 + x1) / 2, (y0 + y1) / 2, (z0 + z1) / 2];
    // Half the diagonal: nothing lies farther from the middle.
    this.reach = Math.hypot(x1 - x0, y1 - y0, z1 - z0) / 2 || 1;
    this.cameras = new Cameras(this.centre, this.reach);
    this.renderer.localClippingEnabled = true;
    this.sections = new SectionDrawing(this.scene, this.centre, (c) =>
      this.picked.includes(c) ? PICKED : this.colourOf(c),
    );
    this.scene.add(new HemisphereLight("#ffffff", "#b9b2a2", 1.35), this.sun, this.sun.target);
    const made = new Map<number, PartGeometry>();
    tree.components.forEach((component, i) => {
      if (component.part === null) return;
      const part = facts.parts[component.part]!;
      if (!part.box) return;
      let own = made.get(component.part);
      if (!own) made.set(component.part, (own = geometryOf(part, bytes)));
      this.addComponent(i, part, own);
    });
    this.shown.sort((a, b) => b.size - a.size);
    this.restyle();
    canvas.addEventListener("webglcontextlost", this.lost);
    canvas.addEventListener("webglcontextrestored", this.restored);
  }

  private readonly lost = (e: Event) => e.preventDefault();
  private readonly restored = () => this.draw();

  private addComponent(i: number, facts: PartFacts, own: PartGeometry) {
    const box = facts.box!;
    const matrix = matrixOf(this.tree.placed[i]!, box, this.centre);
    const mesh = new Mesh(own.mesh);
    const lines = new LineSegments(own.lines, this.ink);
    for (const one of [mesh, lines]) {
      one.matrixAutoUpdate = false;
      one.matrix.copy(matrix);
      this.scene.add(one);
    }
    mesh.raycast = acceleratedRaycast;
    mesh.updateMatrixWorld(true);
    lines.updateMatrixWorld(true);
    const shown = {
      component: i,
      mesh,
      lines,
      ...{ part: own.part, coarse: own.coarse },
      home: matrix,
      size: Math.hypot(box[3]! - box[0]!, box[4]! - box[1]!, box[5]! - box[2]!),
      triangles: own.part.corners.length / 3,
    };
    this.shown.push(shown);
    this.byMesh.set(mesh, shown);
  }

  private colourOf(component: number): string {
    const { colour, part } = this.tree.components[component]!;
    return this.look.colours.get(component) ?? colour ?? this.facts.parts[part!]!.colour ?? GREY;
  }

  /** Gives every component its material, by how it is shown now. */
  private restyle() {
    const picked = new Set(this.picked);
    for (const { component, mesh, lines } of this.shown) {
      const facts = this.facts.parts[this.tree.components[component]!.part!]!;
      const isGhost = this.look.ghost.has(component) && !picked.has(component);
      const opacity = isGhost ? 0.1 : Math.max(0.2, this.tree.components[component]!.opacity ?? facts.opacity ?? 1);
      const isPicked = picked.has(component);
      const hasColour = this.tree.components[component]!.colour !== null || this.look.colours.has(component);
      mesh.material = this.materials.of(
        isPicked ? PICKED : this.colourOf(component),
        opacity,
        !isPicked && !hasColour && facts.faceColours !== null,
      );
      lines.material = isGhost ? this.faint : this.ink;
    }
    this.sections.recolour();
  }

  /** Cuts the model. @param isVeiled whether what is taken away is seen as a ghost */
  setSections(cutting: readonly Cutting[], isVeiled: boolean) {
    this.isVeiled = isVeiled;
    this.sections.set(cutting);
    const { planes } = this.sections;
    this.materials.cutBy(planes);
    for (const material of [this.ink, this.faint]) material.clippingPlanes = planes;
    this.takenLook.cutBy(planes);
    this.sections.trace(this.cuttable());
    this.draw();
  }

  /** Fills what is cut, plane by plane. */
  fillSections(cuts: readonly SectionCut[]) {
    this.sections.fill(cuts);
    this.draw();
  }

  private cuttable() {
    return this.shown.filter((s) => !this.look.hidden.has(s.component) && !this.look.ghost.has(s.component));
  }

  /** Takes the model apart, each component by a way of its own; null puts it together. */
  setApart(ways: readonly V3[] | null) {
    this.ways = ways;
    this.cameras.reachTo(this.reach + (ways ?? []).reduce((most, w) => Math.max(most, Math.hypot(...w)), 0));
    for (const { component, mesh, lines, home } of this.shown)
      for (const one of [mesh, lines]) {
        one.matrix.copy(home);
        if (ways) one.matrix.premultiply(new Matrix4().makeTranslation(...ways[component]!));
        one.updateMatrixWorld(true);
      }
    this.setStated(this.lastStated);
    this.setTaken(this.lastTaken);
  }

  setLook(look: Look) {
    this.look = look;
    this.restyle();
    this.setStated(this.lastStated);
  }

  /** Shows dimensions and notes as the file has drawn them, of the components that are shown. */
  setStated(all: readonly DrawnAt[]) {
    this.lastStated = all;
    const far = this.stated.set(all, (component) => {
      const shown = this.look.hidden.has(component) ? undefined : this.shown.find((s) => s.component === component);
      const corner = shown && this.facts.parts[this.tree.components[component]!.part!]!.box;
      return shown && corner ? { matrix: shown.mesh.matrix, corner } : null;
    });
    if (!this.ways) this.cameras.reachTo(Math.max(this.reach, far));
    this.draw();
  }

  setPicked(components: readonly number[]) {
    this.picked = components;
    this.restyle();
    this.draw();
  }

  /** Shows faces, or edges where there are any, as taken. */
  setTaken(taken: readonly TakenOf[]) {
    this.lastTaken = taken;
    for (const one of this.taken) {
      this.scene.remove(one);
      one.geometry.dispose();
    }
    this.taken = taken.flatMap((hit) => {
      const shown = this.shown.find((s) => s.component === hit.component);
      if (!shown) return [];
      const one = this.takenLook.of(hit, shown.part, shown.mesh, shown.home, this.centre);
      this.scene.add(one);
      return [one];
    });
    this.draw();
  }

  resize(width: number, height: number) {
    this.size = { width, height };
    this.draw();
  }

  /** @param isMoving whether more will follow at once */
  setEye(eye: Eye, isMoving: boolean) {
    this.eye = eye;
    this.draw(isMoving);
  }

  private draw(isMoving = false) {
    if (this.isEnded) return;
    clearTimeout(this.rest);
    cancelAnimationFrame(this.frame);
    this.frame = requestAnimationFrame((now) => {
      // Between two frames of one movement there is no rest: whoever pauses sees it drawn in full, and begins anew.
      if (isMoving && this.last > 0) this.isSlow ||= now - this.last > SLOW;
      this.last = isMoving ? now : 0;
      this.render(isMoving && this.isSlow);
      if (isMoving) this.rest = window.setTimeout(() => this.draw(), REST);
      else this.onDrawn();
    });
  }

  private render(isSimple: boolean) {
    if (!this.eye) return;
    const ratio = (isSimple ? 0.5 : 1) * Math.min(2, window.devicePixelRatio || 1);
    if (this.renderer.getPixelRatio() !== ratio) this.renderer.setPixelRatio(ratio);
    this.renderer.setSize(this.size.width, this.size.height, false);
    let left = isSimple ? MOVING : Infinity;
    // The largest come first: what is left out while it moves is small.
    for (const { component, mesh, lines, triangles } of this.shown) {
      const isShown = !this.look.hidden.has(component);
      mesh.visible = isShown && (left > 0 || triangles === 0);
      lines.visible = mesh.visible && left > MOVING / 2;
      if (mesh.visible) left -= isSimple ? Math.min(triangles, HEAVY) : triangles;
    }
    const { width, height } = this.size;
    const camera = this.cameras.aimed(this.eye, width / height, this.sun);
    const heavy = isSimple ? this.shown.filter((s) => s.triangles > HEAVY) : [];
    coarsely(heavy, () => this.renderer.render(this.scene, camera));
    if (!this.isVeiled || !this.sections.isCutting) return;
    this.renderer.autoClear = false;
    this.sections.drawVeil(
      () => this.renderer.render(this.scene, camera),
      [...this.shown.map((s) => s.lines), ...this.taken],
    );
    this.renderer.autoClear = true;
  }

  /** Sends the ray through a place of the window, as far as sections leave anything there; false where they do not. */
  private aim(x: number, y: number) {
    const ray = rayOf(this.eye!, x, y, this.size.width, this.size.height);
    const stretch = stretchOf(ray.from, ray.along, this.sections.cutting);
    if (!stretch) return false;
    this.rays.set(new Vector3(...minus(ray.from, this.centre)), new Vector3(...ray.along));
    [this.rays.near, this.rays.far] = stretch;
    return true;
  }

  /** The face that a section has cut under a place of the window, unless something lies before it. */
  pickCut(x: number, y: number): CutHit | null {
    if (!this.eye || !this.aim(x, y)) return null;
    this.rays.near *= 1 - 1e-9;
    const cut = this.sections.under(this.rays);
    if (!cut) return null;
    const first = this.rays.intersectObjects(this.pickable(), false)[0];
    return first && first.distance < cut.distance * (1 - 1e-7) ? null : cut;
  }

  private pickable() {
    const meshes = this.cuttable().map((s) => s.mesh);
    for (const { geometry } of meshes) geometry.boundsTree ??= new MeshBVH(geometry, { indirect: true });
    this.rays.firstHitOnly = true;
    return meshes;
  }

  /** What lies under a place of the window; edges first, where one is near and not hidden. */
  pick(x: number, y: number): Hit | null {
    if (!this.eye) return null;
    const { width, height } = this.size;
    const meshes = this.pickable();
    const under = ([dx, dy]: readonly [number, number]) =>
      this.aim(x + dx, y + dy) ? this.rays.intersectObjects(meshes, false)[0] : undefined;
    // A rim seen against nothing is taken from a little beside it.
    let hit = under([0, 0]);
    for (const beside of BESIDE) hit ??= under(beside);
    if (!hit || hit.faceIndex === undefined || hit.faceIndex === null) return null;
    const shown = this.byMesh.get(hit.object as Mesh)!;
    const seen: V3 = [hit.point.x + this.centre[0], hit.point.y + this.centre[1], hit.point.z + this.centre[2]];
    const normal = hit.normal!.clone().transformDirection(hit.object.matrixWorld);
    if (normal.dot(this.rays.ray.direction) > 0) normal.negate();
    const near = edgeNear(shown.part, shown.lines.matrixWorld, this.centre, this.eye, { x, y, width, height }, seen);
    const point = near?.end ?? seen;
    return {
      component: shown.component,
      face: stretchAt(shown.part.faceStarts, hit.faceIndex),
      edge: near?.edge ?? null,
      isCorner: near?.end != null,
      point: this.ways ? minus(point, this.ways[shown.component]!) : point,
      normal: [normal.x, normal.y, normal.z],
    };
  }

  /** The face of what can be cut that comes nearest to a point of the model, whether or not it is taken apart. */
  nearest(point: V3) {
    return nearestOn(this.cuttable(), this.centre, point);
  }

  /** Whether a point of the model is not seen now: something that is drawn lies before it, or a section has taken it away. */
  isUnseen(point: V3): boolean {
    if (!this.eye) return false;
    const { x, y } = placeOf(this.eye, point, this.size.width, this.size.height);
    if (!this.aim(x, y)) return true;
    const { rays } = this;
    rays.far = Math.min(rays.far, rays.ray.origin.distanceTo(new Vector3(...minus(point, this.centre))));
    // What the point itself lies on is not before it.
    rays.far -= this.eye.height * SKIN;
    return (
      rays.far <= rays.near ||
      [...this.sections.fills, ...this.pickable()].some((m) => rays.intersectObject(m, false).length > 0)
    );
  }

  dispose() {
    this.isEnded = true;
    clearTimeout(this.rest);
    cancelAnimationFrame(this.frame);
    this.canvas.removeEventListener("webglcontextlost", this.lost);
    this.canvas.removeEventListener("webglcontextrestored", this.restored);
    for (const { mesh, lines } of this.shown) {
      mesh.geometry.dispose();
      lines.geometry.dispose();
    }
    this.materials.dispose();
    this.stated.dispose();
    this.sections.dispose();
    this.renderer.dispose();
    // Browsers keep few of them: one is given back at once, not when it is swept up.
    this.renderer.forceContextLoss();
  }
}
