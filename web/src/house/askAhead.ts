import type { QueryClient } from "@tanstack/react-query";
import { deskQuery } from "../desk/deskQuery";
import { pinsQuery } from "../kept/pinsQuery";
import { sessionQuery } from "../session/sessionQuery";
import { packageQuery } from "../slip/packageQuery";
import { sheetsQuery } from "../viewer/sheetsQuery";
import { placeAt } from "./places";

/** Milliseconds that a page is not drawn while what it needs may come. */
const LONGEST = 200;

/**
 * Asks for what a page that is being opened surely needs, before anything of it is drawn: otherwise each part waits until the one it
 * stands in is there. What fails is said by whoever shows it.
 * Gives when all that is there, or after a while: what is drawn before is drawn twice.
 */
export function askAhead(queries: QueryClient, { pathname: path, search }: Location): Promise<unknown> {
  const ask = async () => {
    const { person } = await queries.fetchQuery(sessionQuery);
    if (!person) return;
    const [, place, id] = path.split("/");
    if (place === "packages" && id) await askForBench(id);
    if (place !== "") return;
    const pins = queries.prefetchQuery(pinsQuery);
    const { toSign, toAnswer, toAdvise, waiting, informed } = await queries.fetchQuery(deskQuery);
    const [first] = [toSign, toAnswer, toAdvise, waiting, informed].flat();
    await Promise.all([pins, first && queries.prefetchQuery(packageQuery(first.id))]);
  };
  // The item that the address names lies on the bench; without a name the first.
  const askForBench = async (id: string) => {
    const { items } = await queries.fetchQuery(packageQuery(id));
    const named = new URLSearchParams(search).get("item");
    const item = items.find((i) => i.number === named) ?? items[0];
    if (item) await queries.prefetchQuery(sheetsQuery(item.draft));
  };
  const asked = ask().catch(() => undefined);
  // After what is asked of the server: naming the script's many files to the browser takes longer.
  setTimeout(() => placeAt(path)?.fetch());
  return Promise.race([asked, new Promise((later) => setTimeout(later, LONGEST))]);
}
