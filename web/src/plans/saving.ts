import type { Plan } from "../api/types";

/** How the plan stands with the server. */
export type SavingState =
  /** The server has the last change. */
  | "saved"
  /** It is being sent. */
  | "saving"
  /** It is sent in a moment. */
  | "waiting"
  /** The server did not take it; nothing is sent until it is tried again or changed. */
  | "failed"
  /** Somebody else changed the plan meanwhile; nothing is sent until one of both is chosen. */
  | "clash";

export type Kept = { version: number; isDraft: boolean; plan: Plan };

/** What a page that went left behind: the version it knew, what it had sent without an answer, and the plan as it was. */
export type Left = { version: number; sent?: Plan | null; plan: Plan };

type Line = {
  /** Stores a plan over the version that is known; gives what the server has then. */
  put(version: number, plan: Plan): Promise<Kept>;
  /** What the server has. */
  get(): Promise<Kept>;
  isClash(fault: unknown): boolean;
  /** Whether nothing says that it was not saved: the line broke, or the server did. */
  isLost(fault: unknown): boolean;
  /** Keeps what the next page needs, before it returns: the page may be gone when what is sent arrives. */
  keep(left: Left): void;
};

/** How long the hand rests, in milliseconds, until what it changed is sent. */
const PAUSE = 700;

/** Brings a plan that is being edited to the server: one save at a time, the last change always the last to be sent. */
export class PlanSaving {
  state: SavingState = "saved";
  fault: string | null = null;
  isDraft: boolean;
  private version: number;
  private has: Plan;
  private latest: Plan;
  /** What was sent and not answered: it may be with the server, and is sent again before what came after it, so that nobody's own change is taken for another's. */
  private lost: Plan | null = null;
  private running: Promise<boolean> | null = null;
  private timer: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly line: Line,
    first: Kept,
    private readonly onChange: () => void,
    left?: Left | null,
  ) {
    this.version = left?.version ?? first.version;
    this.lost = left?.sent ?? null;
    this.isDraft = first.isDraft;
    this.has = this.latest = first.plan;
  }

  /** What the page would leave behind if it went now. */
  get left(): Left {
    return { version: this.version, sent: this.lost, plan: this.latest };
  }
  /** Whether the server has what is here for sure: what was sent last and not answered may have come after what it said it has. */
  private get isWith() {
    return this.has === this.latest && this.lost === null;
  }
  /** Whether everything is with the server. */
  get isSettled() {
    return this.isWith && this.state === "saved";
  }

  change(plan: Plan) {
    if (plan === this.latest) return;
    this.latest = plan;
    if (this.state === "clash") return;
    this.stopWaiting();
    // What is under way is followed by this when it is done.
    if (this.running) return;
    if (this.isWith) return this.tell("saved", null);
    this.timer = setTimeout(() => void this.save(), PAUSE);
    this.tell("waiting", null);
  }

  /** Sends what is not sent yet; gives whether the server has everything. */
  save(): Promise<boolean> {
    this.stopWaiting();
    if (this.state === "clash") return Promise.resolve(false);
    if (this.isWith && !this.running) {
      this.tell("saved", null);
      return Promise.resolve(true);
    }
    return (this.running ??= this.run());
  }

  /** Gives what somebody else has saved; the editor takes it in, and what was here stays in its history. */
  async takeTheirs(): Promise<Plan> {
    const theirs = await this.line.get();
    this.version = theirs.version;
    this.isDraft = theirs.isDraft;
    this.has = this.latest = theirs.plan;
    this.tell("saved", null);
    return theirs.plan;
  }

  /** Saves what is here over what somebody else has saved. */
  async keepMine(): Promise<boolean> {
    this.version = (await this.line.get()).version;
    this.tell("waiting", null);
    return this.save();
  }

  private async run(): Promise<boolean> {
    this.tell("saving", null);
    // What it ends by is set before it can end.
    await Promise.resolve();
    try {
      while (!this.isWith) {
        const now: Plan = this.lost ?? this.latest;
        this.lost = now;
        this.line.keep(this.left);
        const kept = await this.line.put(this.version, now);
        this.lost = null;
        this.version = kept.version;
        this.isDraft = kept.isDraft;
        this.has = now;
      }
      this.running = null;
      this.tell("saved", null);
      return true;
    } catch (e) {
      this.running = null;
      if (!this.line.isLost(e)) this.lost = null;
      this.line.keep(this.left);
      this.tell(this.line.isClash(e) ? "clash" : "failed", (e as Error).message);
      return false;
    }
  }

  private stopWaiting() {
    if (this.timer !== null) clearTimeout(this.timer);
    this.timer = null;
  }

  private tell(state: SavingState, fault: string | null) {
    this.state = state;
    this.fault = fault;
    this.onChange();
  }
}

/** How it stands, in words. */
export const savingWords: Record<SavingState, string> = {
  saved: "saved",
  saving: "saving …",
  waiting: "not saved yet",
  failed: "not saved",
  clash: "not saved",
};
