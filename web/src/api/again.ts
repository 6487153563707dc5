import { personNow, Refusal } from "./client";

/** Whether asking again may help: a line that is dead comes back, and so does somebody whose session has ended; what is refused otherwise is refused again. */
export const mayHelpAgain = (e: unknown) =>
  !(e instanceof Refusal) || e.status === 0 || e.status >= 500 || e.status === 401 || e.code === "stale-page";

/** Whether somebody else than this person is at the page by now: what one has looked at is told in nobody else's name. */
export const isSomebodyElse = (person: string | null) => personNow() !== null && personNow() !== person;

/** Waits for so many milliseconds, or until it is not wanted any more. */
export const pause = (milliseconds: number, stop: AbortSignal) =>
  new Promise<void>((over) => {
    const timer = setTimeout(over, milliseconds);
    stop.addEventListener("abort", () => (clearTimeout(timer), over()));
  });

/**
 * Asks for something, and again where the line broke meanwhile or the server was away.
 * @param pauses milliseconds until it is asked for again, each time; after the last it fails
 * @throws an AbortError when it is not wanted any more
 */
export async function steadily<T>(
  ask: () => Promise<T>,
  stop: AbortSignal,
  pauses: readonly number[] = [500, 1000, 2000],
): Promise<T> {
  for (const milliseconds of [...pauses, null]) {
    try {
      return await ask();
    } catch (e) {
      if (!stop.aborted && (milliseconds === null || !mayHelpAgain(e))) throw e;
    }
    if (!stop.aborted) await pause(milliseconds!, stop);
    if (stop.aborted) break;
  }
  throw new DOMException("Not wanted any more.", "AbortError");
}
