import { isSomebodyElse, mayHelpAgain } from "../api/again";
import { api, personNow } from "../api/client";

/** Milliseconds until what could not be told is told again: at first, and at most. */
const SOON = 1000;
const LATEST = 30_000;

/** What is being told, by person and draft, and whether it is to be told once more then: it was prepared anew meanwhile. */
const telling = new Map<string, boolean>();
const keyOf = (draft: string) => `${personNow()} ${draft}`;
const tell = (draft: string) => api.tell(`/drafts/${draft}/opened`);

/**
 * Tells that a person has had a draft open, for signing asks for it. A line that is dead comes back: it is told again until it is known,
 * wherever on the page one is by then, or until there is no use in it.
 */
export function tellOpened(draft: string) {
  const [person, key] = [personNow(), keyOf(draft)];
  if (telling.has(key)) {
    telling.set(key, true);
    return;
  }
  telling.set(key, false);
  const again = (after: number) => {
    if (isSomebodyElse(person)) {
      telling.delete(key);
      return;
    }
    void tell(draft).then(
      () => {
        const isOnceMore = telling.get(key);
        telling.delete(key);
        if (isOnceMore && !isSomebodyElse(person)) tellOpened(draft);
      },
      (e: unknown) => {
        if (mayHelpAgain(e)) setTimeout(again, after, Math.min(2 * after, LATEST));
        else telling.delete(key);
      },
    );
  };
  again(SOON);
}

/** Tells at once what is still to be told of some drafts; fails where that cannot be. */
export const tellPending = (drafts: readonly string[]): Promise<unknown> =>
  Promise.all(drafts.filter((d) => telling.has(keyOf(d))).map(tell));
