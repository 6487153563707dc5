import { mayHelpAgain } from "../api/again";
import { api } from "../api/client";

/** Milliseconds until what could not be told is told again: at first, and at most. */
const SOON = 1000;
const LATEST = 30_000;

/** What is being told, by draft, and whether it is to be told once more then: it was prepared anew meanwhile. */
const telling = new Map<string, boolean>();
const tell = (draft: string) => api.tell(`/drafts/${draft}/opened`);

/**
 * Tells that a person has had a draft open, for signing asks for it. A line that is dead comes back: it is told again until it is known,
 * wherever on the page one is by then, or until there is no use in it.
 */
export function tellOpened(draft: string) {
  if (telling.has(draft)) {
    telling.set(draft, true);
    return;
  }
  telling.set(draft, false);
  const again = (after: number) =>
    void tell(draft).then(
      () => {
        const isOnceMore = telling.get(draft);
        telling.delete(draft);
        if (isOnceMore) tellOpened(draft);
      },
      (e: unknown) => {
        if (mayHelpAgain(e)) setTimeout(again, after, Math.min(2 * after, LATEST));
        else telling.delete(draft);
      },
    );
  again(SOON);
}

/** Tells at once what is still to be told of some drafts; fails where that cannot be. */
export const tellPending = (drafts: readonly string[]): Promise<unknown> =>
  Promise.all(drafts.filter((d) => telling.has(d)).map(tell));
