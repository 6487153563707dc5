import type { QueryClient } from "@tanstack/react-query";
import { deskQuery, packageQuery } from "../desk/deskQuery";
import { pinsQuery } from "../kept/pinsQuery";
import { sessionQuery } from "../session/sessionQuery";
import { placeAt } from "./places";

/** Milliseconds that a page is not drawn while what it needs may come. */
const LONGEST = 200;

/**
 * Asks for what a page that is being opened surely needs, before anything of it is drawn: otherwise each part waits until the one it
 * stands in is there. What fails is said by whoever shows it.
 * Gives when all that is there, or after a while: what is drawn before is drawn twice.
 */
export function askAhead(queries: QueryClient, path: string): Promise<unknown> {
  placeAt(path)?.fetch();
  const ask = async () => {
    const { person } = await queries.fetchQuery(sessionQuery);
    if (!person || path !== "/") return;
    const pins = queries.prefetchQuery(pinsQuery);
    const { toSign, toAnswer, toAdvise, waiting, informed } = await queries.fetchQuery(deskQuery);
    const [first] = [toSign, toAnswer, toAdvise, waiting, informed].flat();
    await Promise.all([pins, first && queries.prefetchQuery(packageQuery(first.id))]);
  };
  return Promise.race([ask().catch(() => undefined), new Promise((later) => setTimeout(later, LONGEST))]);
}
