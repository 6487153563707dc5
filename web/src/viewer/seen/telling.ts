import { isShownBy, type Seen } from "./patches";

/** Views that wait for a line; more than a person looks at while it is dead are let go, the oldest first. */
const MOST_WAITING = 100;

/** Tells what was seen of a sheet: one request at a time, nothing twice, and what could not be told again after a while. */
export class SeenTelling {
  private views: Seen[] = [];
  private waiting: Seen[] = [];
  private isBusy = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  /**
   * @param post sends views
   * @param mayHelp whether sending them again may help after it failed so
   * @param pause milliseconds until then
   */
  constructor(
    private readonly post: (views: readonly Seen[]) => Promise<void>,
    private readonly mayHelp: (e: unknown) => boolean,
    private readonly pause: number,
  ) {}

  add(view: Seen) {
    if (this.views.some((v) => isShownBy(view, v))) return;
    this.views = [...this.views.filter((v) => !isShownBy(v, view)), view];
    this.waiting = [...this.waiting, view].slice(-MOST_WAITING);
    // While a line is dead nobody knocks at it with each view.
    if (this.timer === undefined) void this.send();
  }

  private async send() {
    if (this.isBusy) return;
    this.isBusy = true;
    while (this.waiting.length > 0) {
      const sent = this.waiting;
      this.waiting = [];
      try {
        await this.post(sent);
      } catch (e) {
        if (!this.mayHelp(e)) continue;
        this.waiting = [...sent, ...this.waiting].slice(-MOST_WAITING);
        this.timer = setTimeout(() => {
          this.timer = undefined;
          void this.send();
        }, this.pause);
        break;
      }
    }
    this.isBusy = false;
  }
}
