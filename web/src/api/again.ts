import { Refusal } from "./client";

/** Whether asking again may help: a line that is dead comes back, and so does somebody whose session has ended; what is refused otherwise is refused again. */
export const mayHelpAgain = (e: unknown) =>
  !(e instanceof Refusal) || e.status === 0 || e.status >= 500 || e.status === 401 || e.code === "stale-page";
