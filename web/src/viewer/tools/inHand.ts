import type { Snap } from "../snap/snap";
import type { Step } from "./tool";

/**
 * What the hand is drawing or moving now. It changes with every movement of the hand, many times a second: only what shows it listens, the page about it is not
 * drawn anew.
 */
export class InHand {
  private step: Step | null = null;
  private caught: Snap | null = null;
  private readonly listeners = new Set<() => void>();

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** What the tool said last; null where it is at rest. */
  readonly stepNow = () => this.step;
  /** What the next press will catch. */
  readonly snapNow = () => this.caught;

  show(step: Step | null) {
    if (this.step === step) return;
    this.step = step;
    this.tell();
  }
  catch(snap: Snap | null) {
    const was = this.caught;
    if (was?.kind === snap?.kind && was?.at.x === snap?.at.x && was?.at.y === snap?.at.y) return;
    this.caught = snap;
    this.tell();
  }
  private tell() {
    for (const listener of this.listeners) listener();
  }
}

/** Where nothing is drawn. */
export const emptyHand = new InHand();
