import { type DirectionalLight, type Matrix4, OrthographicCamera, PerspectiveCamera } from "three";
import { axesOf, distanceOf, dot, HALF_ANGLE, minus, type Eye, type V3 } from "../camera/eye";

/** A little more than what is to be seen, so that nothing at its end is cut. */
const BEYOND = 1.01;

/** The two cameras of a model, whose middle is their origin. */
export class Cameras {
  private readonly level = new OrthographicCamera();
  private readonly deep = new PerspectiveCamera((HALF_ANGLE * 360) / Math.PI);

  /** @param reach how far anything lies from the middle at most */
  constructor(
    private readonly centre: V3,
    private reach: number,
  ) {
    for (const camera of [this.level, this.deep]) camera.matrixAutoUpdate = false;
  }

  /** Says how far anything lies from the middle now, at most. */
  reachTo(reach: number) {
    this.reach = reach;
  }

  /** The camera for an eye; the light comes over the eye's left shoulder, wherever it looks from. */
  aimed(eye: Eye, aspect: number, sun: DirectionalLight): OrthographicCamera | PerspectiveCamera {
    const { right, up, back } = axesOf(eye);
    const target = minus(eye.target, this.centre);
    const away = eye.isPerspective ? distanceOf(eye) : 0;
    const reach = this.reach * BEYOND;
    // How far the model's middle is before the eye.
    const middle = away + dot(back, target);
    const camera = eye.isPerspective ? this.deep : this.level;
    if (camera instanceof PerspectiveCamera) {
      camera.aspect = aspect;
      camera.near = Math.max(this.reach / 2000, middle - reach);
      camera.far = Math.max(camera.near * BEYOND, middle + reach);
    } else {
      const [high, wide] = [eye.height / 2, (eye.height / 2) * aspect];
      [camera.top, camera.bottom, camera.left, camera.right] = [high, -high, -wide, wide];
      [camera.near, camera.far] = [middle - reach, middle + reach];
    }
    camera.updateProjectionMatrix();
    const rows = [0, 1, 2].flatMap((k) => [right[k]!, up[k]!, back[k]!, target[k]! + back[k]! * away]);
    camera.matrix.set(...([...rows, 0, 0, 0, 1] as Parameters<Matrix4["set"]>));
    camera.updateMatrixWorld(true);
    const [x, y, z] = [0, 1, 2].map((k) => -0.35 * right[k]! + 0.75 * up[k]! + 0.9 * back[k]!) as [
      number,
      number,
      number,
    ];
    sun.position.set(x, y, z);
    return camera;
  }
}
