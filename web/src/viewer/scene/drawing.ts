import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  DoubleSide,
  Float32BufferAttribute,
  HemisphereLight,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  Raycaster,
  Scene,
  Vector3,
  WebGLRenderer,
} from "three";
import { acceleratedRaycast, MeshBVH } from "three-mesh-bvh";
import type { PartFacts, SceneFacts } from "../../api/types";
import { Cameras } from "./cameras";
import { edgeNear } from "./edgeNear";
import { minus, rayOf, type Eye, type V3 } from "./eye";
import { readPart, stretchAt, type PartMesh } from "./partBlock";
import { after, type SceneTree } from "./tree";

/** What lies under a place of the window, in the model's coordinates. */
export type Hit = { component: number; face: number; edge: number | null; point: V3; normal: V3 };

/** How components are shown: as usual when they are not named. */
export type Look = { hidden: ReadonlySet<number>; ghost: ReadonlySet<number> };

type Shown = { component: number; mesh: Mesh; lines: LineSegments; part: PartMesh; size: number; triangles: number };

const GREY = "#b9b6ae";
const INK = "#23262a";
const ACCENT = "#17857a";
/** Most triangles of a frame while the model moves, on a machine that is slow. */
const MOVING = 60_000;
/** A frame that took longer than this makes the next ones simpler, milliseconds. */
const SLOW = 45;
/** How long nothing moves before the model is drawn in full, milliseconds. */
const REST = 140;
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
  private readonly materials = new Map<string, MeshLambertMaterial>();
  private readonly ink = new LineBasicMaterial({ color: INK });
  private readonly faint = new LineBasicMaterial({ color: INK, transparent: true, opacity: 0.18 });
  private readonly accent = new LineBasicMaterial({ color: ACCENT, depthTest: false });
  private readonly accentFace = new MeshBasicMaterial({
    color: ACCENT,
    transparent: true,
    opacity: 0.55,
    side: DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: -2,
    polygonOffsetUnits: -2,
  });
  /** What is shown as taken. */
  private taken: readonly (Mesh | LineSegments)[] = [];
  private readonly centre: V3;
  private readonly rays = new Raycaster();
  private size = { width: 1, height: 1 };
  private eye: Eye | null = null;
  private frame = 0;
  private rest = 0;
  private isSlow = false;
  private last = 0;
  private look: Look = { hidden: new Set(), ghost: new Set() };
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
    this.cameras = new Cameras(this.centre, Math.hypot(x1 - x0, y1 - y0, z1 - z0) / 2 || 1);
    this.scene.add(new HemisphereLight("#ffffff", "#b9b2a2", 1.35), this.sun, this.sun.target);
    const made = new Map<number, { part: PartMesh; mesh: BufferGeometry; lines: BufferGeometry }>();
    tree.components.forEach((component, i) => {
      if (component.part === null) return;
      const part = facts.parts[component.part]!;
      if (!part.box) return;
      let own = made.get(component.part);
      if (!own) made.set(component.part, (own = this.geometryOf(part, bytes)));
      this.addComponent(i, part, own);
    });
    this.shown.sort((a, b) => b.size - a.size);
    this.restyle();
    canvas.addEventListener("webglcontextlost", this.lost);
    canvas.addEventListener("webglcontextrestored", this.restored);
  }

  private readonly lost = (e: Event) => e.preventDefault();
  private readonly restored = () => this.draw();

  private geometryOf(facts: PartFacts, bytes: ArrayBuffer) {
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

  private addComponent(
    i: number,
    facts: PartFacts,
    own: { part: PartMesh; mesh: BufferGeometry; lines: BufferGeometry },
  ) {
    const box = facts.box!;
    // From the least corner of the part's box, and about the model's middle, so that nothing is far from nought.
    const m = after(this.tree.placed[i]!, [1, 0, 0, box[0]!, 0, 1, 0, box[1]!, 0, 0, 1, box[2]!]);
    const matrix = new Matrix4().set(
      ...([
        m[0],
        m[1],
        m[2],
        m[3]! - this.centre[0],
        m[4],
        m[5],
        m[6],
        m[7]! - this.centre[1],
        m[8],
        m[9],
        m[10],
        m[11]! - this.centre[2],
        0,
        0,
        0,
        1,
      ] as Parameters<Matrix4["set"]>),
    );
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
      part: own.part,
      size: Math.hypot(box[3]! - box[0]!, box[4]! - box[1]!, box[5]! - box[2]!),
      triangles: own.part.corners.length / 3,
    };
    this.shown.push(shown);
    this.byMesh.set(mesh, shown);
  }

  private materialOf(colour: string, opacity: number, byFace: boolean): MeshLambertMaterial {
    const key = `${colour}/${opacity}/${byFace}`;
    let material = this.materials.get(key);
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
      });
      this.materials.set(key, material);
    }
    return material;
  }

  /** Gives every component its material, by how it is shown now. */
  private restyle() {
    const picked = new Set(this.picked);
    for (const { component, mesh, lines } of this.shown) {
      const { colour, part } = this.tree.components[component]!;
      const facts = this.facts.parts[part!]!;
      const isGhost = this.look.ghost.has(component) && !picked.has(component);
      const opacity = isGhost ? 0.1 : Math.max(0.2, this.tree.components[component]!.opacity ?? facts.opacity ?? 1);
      const isPicked = picked.has(component);
      mesh.material = this.materialOf(
        isPicked ? "#79b8ad" : (colour ?? facts.colour ?? GREY),
        opacity,
        !isPicked && !colour && facts.faceColours !== null,
      );
      lines.material = isGhost ? this.faint : this.ink;
    }
  }

  setLook(look: Look) {
    this.look = look;
    this.restyle();
    this.draw();
  }

  setPicked(components: readonly number[]) {
    this.picked = components;
    this.restyle();
    this.draw();
  }

  /** Shows faces, or edges where there are any, as taken. */
  setTaken(taken: readonly Pick<Hit, "component" | "face" | "edge">[]) {
    for (const one of this.taken) {
      this.scene.remove(one);
      one.geometry.dispose();
    }
    this.taken = taken.flatMap(({ component, face, edge }) => {
      const shown = this.shown.find((s) => s.component === component);
      if (!shown) return [];
      const { part, mesh } = shown;
      const geometry = new BufferGeometry();
      let one: Mesh | LineSegments;
      if (edge === null) {
        geometry.setAttribute("position", mesh.geometry.getAttribute("position"));
        geometry.setIndex(
          new BufferAttribute(part.corners.subarray(part.faceStarts[face]! * 3, part.faceStarts[face + 1]! * 3), 1),
        );
        one = new Mesh(geometry, this.accentFace);
      } else {
        const strokes = part.strokes.slice(part.lineStarts[edge]! * 6, part.lineStarts[edge + 1]! * 6);
        geometry.setAttribute("position", new Float32BufferAttribute(strokes, 3));
        one = new LineSegments(geometry, this.accent);
        one.renderOrder = 2;
      }
      one.matrixAutoUpdate = false;
      one.matrix.copy(mesh.matrix);
      one.updateMatrixWorld(true);
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
      if (isMoving && this.last > 0 && now - this.last < 1000) this.isSlow ||= now - this.last > SLOW && this.last > 0;
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
      if (mesh.visible) left -= triangles;
    }
    const { width, height } = this.size;
    this.renderer.render(this.scene, this.cameras.aimed(this.eye, width / height, this.sun));
  }

  /** What lies under a place of the window; edges first, where one is near and not hidden. */
  pick(x: number, y: number): Hit | null {
    if (!this.eye) return null;
    const { width, height } = this.size;
    const meshes = this.shown
      .filter((s) => !this.look.hidden.has(s.component) && !this.look.ghost.has(s.component))
      .map((s) => s.mesh);
    for (const { geometry } of meshes) geometry.boundsTree ??= new MeshBVH(geometry, { indirect: true });
    this.rays.firstHitOnly = true;
    const under = ([dx, dy]: readonly [number, number]) => {
      const ray = rayOf(this.eye!, x + dx, y + dy, width, height);
      this.rays.set(new Vector3(...minus(ray.from, this.centre)), new Vector3(...ray.along));
      return this.rays.intersectObjects(meshes, false)[0];
    };
    // A rim seen against nothing is taken from a little beside it.
    let hit = under([0, 0]);
    for (const beside of BESIDE) hit ??= under(beside);
    if (!hit || hit.faceIndex === undefined || hit.faceIndex === null) return null;
    const shown = this.byMesh.get(hit.object as Mesh)!;
    const point: V3 = [hit.point.x + this.centre[0], hit.point.y + this.centre[1], hit.point.z + this.centre[2]];
    const normal = hit.normal!.clone().transformDirection(hit.object.matrixWorld);
    if (normal.dot(this.rays.ray.direction) > 0) normal.negate();
    return {
      component: shown.component,
      face: stretchAt(shown.part.faceStarts, hit.faceIndex),
      edge: edgeNear(shown.part, shown.lines.matrixWorld, this.centre, this.eye, { x, y, width, height }, point),
      point,
      normal: [normal.x, normal.y, normal.z],
    };
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
    for (const material of this.materials.values()) material.dispose();
    this.renderer.dispose();
    // Browsers keep few of them: one is given back at once, not when it is swept up.
    this.renderer.forceContextLoss();
  }
}
