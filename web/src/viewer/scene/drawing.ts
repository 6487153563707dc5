import {
  DirectionalLight,
  HemisphereLight,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  type Points,
  Scene,
  WebGLRenderer,
} from "three";
import { acceleratedRaycast } from "three-mesh-bvh";
import type { PartFacts, SceneFacts, SectionCut } from "../../api/types";
import { Cameras } from "./cameras";
import type { Eye, V3 } from "../camera/eye";
import { isSameLook, type Look } from "./look";
import { StatedDrawing, type DrawnAt } from "./statedDrawing";
import { TakenLook, type TakenOf } from "./takenLook";
import { PartMaterials } from "./partMaterials";
import { coarsely, geometryOf, GREY, HEAVY, matrixOf, type PartGeometry } from "./partGeometry";
import { SectionDrawing } from "./sectionDrawing";
import { ScenePicker, type Drawn } from "./scenePicker";
import type { Cutting } from "./sections";
import type { SceneTree } from "./tree";

type Shown = Drawn & {
  coarse: PartGeometry["coarse"];
  isClosed: boolean;
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

/** A model on a canvas. It draws when something changed, simpler while it moves on a slow machine, in full at rest. */
export class SceneDrawing {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly cameras: Cameras;
  private readonly sun = new DirectionalLight("#ffffff", 1.9);
  private readonly shown: Shown[] = [];
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
  private size = { width: 1, height: 1 };
  /** What the canvas was given last. */
  private drawn = { width: 0, height: 0, ratio: 0 };
  private eye: Eye | null = null;
  private frame = 0;
  private rest = 0;
  private isSlow = false;
  private last = 0;
  private look: Look = { hidden: new Set(), ghost: new Set(), colours: new Map() };
  private readonly sections: SectionDrawing;
  /** Finds what lies where. */
  readonly picker: ScenePicker;
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
    this.picker = new ScenePicker(
      () => this.eye && { eye: this.eye, size: this.size, all: this.cuttable(), ways: this.ways },
      this.sections,
      this.centre,
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
      ...{ part: own.part, coarse: own.coarse, isClosed: own.isClosed },
      home: matrix,
      size: Math.hypot(box[3]! - box[0]!, box[4]! - box[1]!, box[5]! - box[2]!),
      triangles: own.part.corners.length / 3,
    };
    this.shown.push(shown);
  }

  private colourOf(component: number): string {
    const { colour, part } = this.tree.components[component]!;
    return this.look.colours.get(component) ?? colour ?? this.facts.parts[part!]!.colour ?? GREY;
  }

  /** Gives every component its material, by how it is shown now. */
  private restyle() {
    const picked = new Set(this.picked);
    for (const { component, mesh, lines, isClosed } of this.shown) {
      const facts = this.facts.parts[this.tree.components[component]!.part!]!;
      const isGhost = this.look.ghost.has(component) && !picked.has(component);
      const opacity = isGhost ? 0.1 : Math.max(0.2, this.tree.components[component]!.opacity ?? facts.opacity ?? 1);
      const isPicked = picked.has(component);
      const hasColour = this.tree.components[component]!.colour !== null || this.look.colours.has(component);
      mesh.material = this.materials.of(
        isPicked ? PICKED : this.colourOf(component),
        opacity,
        !isPicked && !hasColour && facts.faceColours !== null,
        isClosed,
      );
      lines.material = isGhost ? this.faint : this.ink;
    }
    this.sections.recolour();
  }

  /** Cuts the model. @param isVeiled whether what is taken away is seen as a ghost */
  setSections(cutting: readonly Cutting[], isVeiled: boolean) {
    if (cutting.length === 0 && !this.sections.isCutting) return;
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
    if (!ways && !this.ways) return;
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
    this.draw();
  }

  setLook(look: Look) {
    if (isSameLook(look, this.look)) return;
    this.look = look;
    this.restyle();
    this.setStated(this.lastStated);
    this.draw();
  }

  /** Shows dimensions and notes as the file has drawn them, of the components that are shown. */
  setStated(all: readonly DrawnAt[]) {
    this.lastStated = all;
    if (all.length === 0 && this.stated.isEmpty) return;
    const far = this.stated.set(all, (component) => {
      const shown = this.look.hidden.has(component) ? undefined : this.shown.find((s) => s.component === component);
      const corner = shown && this.facts.parts[this.tree.components[component]!.part!]!.box;
      return shown && corner ? { matrix: shown.mesh.matrix, corner } : null;
    });
    if (!this.ways) this.cameras.reachTo(Math.max(this.reach, far));
    this.draw();
  }

  setPicked(components: readonly number[]) {
    if (components.length === 0 && this.picked.length === 0) return;
    this.picked = components;
    this.restyle();
    this.draw();
  }

  /** Shows faces, or edges where there are any, as taken. */
  setTaken(taken: readonly TakenOf[]) {
    if (taken.length === 0 && this.taken.length === 0) return;
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
    const { width, height } = this.size;
    // A canvas that is given a size, be it the same, begins anew, and waits for what it drew last.
    if (this.drawn.ratio !== ratio || this.drawn.width !== width || this.drawn.height !== height)
      this.renderer.setDrawingBufferSize(width, height, ratio);
    this.drawn = { width, height, ratio };
    let left = isSimple ? MOVING : Infinity;
    // The largest come first: what is left out while it moves is small.
    for (const { component, mesh, lines, triangles } of this.shown) {
      const isShown = !this.look.hidden.has(component);
      mesh.visible = isShown && (left > 0 || triangles === 0);
      lines.visible = mesh.visible && left > MOVING / 2;
      if (mesh.visible) left -= isSimple ? Math.min(triangles, HEAVY) : triangles;
    }
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
