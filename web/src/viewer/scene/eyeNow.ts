import type { Eye } from "../camera/eye";

/** Where the eye is now. It changes with every movement of the hand, so it is no state of the page: only what shows it listens. */
export class EyeNow {
  private readonly listeners = new Set<() => void>();

  constructor(private eye: Eye | null) {}

  readonly now = () => this.eye;

  set(eye: Eye) {
    this.eye = eye;
    for (const listener of this.listeners) listener();
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };
}
