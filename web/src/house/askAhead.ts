import type { QueryClient } from "@tanstack/react-query";
import { api } from "../api/client";
import { deskQuery } from "../desk/deskQuery";
import { pinsQuery } from "../kept/pinsQuery";
import { entriesAsked, entriesList } from "../ledger/entriesList";
import type { Get } from "../lists/pages";
import { viewsQuery, type ListName } from "../lists/viewsQuery";
import { notesAsked, notesList } from "../notes/notesList";
import { messagesAsked, messagesList } from "../post/messagesList";
import { documentsAsked, documentsList } from "../register/documentsList";
import { sessionQuery } from "../session/sessionQuery";
import { packageQuery } from "../slip/packageQuery";
import { fitsAsked, latePackages, packagesAsked, packagesList } from "../turnaround/packagesList";
import { peopleQuery } from "../ui/people";
import { clockZone, keepClock } from "../ui/time";
import { sheetsQuery } from "../viewer/sheetsQuery";
import { firstOnDesk, firstSeen, itemNamed } from "./firstAsked";
import { placeAt } from "./places";
import { placeNamed } from "./scripts";

/** Milliseconds that a page is not drawn while what it needs may come. */
const LONGEST = 400;

type Rows = (queries: QueryClient, get: Get, me: string) => Promise<unknown>[];
/** The rows of each list, as its address narrows them. */
const rowsOf: Partial<Record<ListName, Rows>> = {
  register: (queries, get) => [queries.prefetchInfiniteQuery(documentsList(documentsAsked(get)))],
  turnaround: (queries, get) => [
    queries.prefetchQuery(latePackages(fitsAsked(get))),
    queries.prefetchInfiniteQuery(packagesList(packagesAsked(get))),
  ],
  notes: (queries, get, me) => [queries.prefetchInfiniteQuery(notesList(notesAsked(get, me)))],
  ledger: (queries, get) => [queries.prefetchInfiniteQuery(entriesList(entriesAsked(get)))],
  post: (queries, get) => [queries.prefetchInfiniteQuery(messagesList(messagesAsked(get)))],
};
const isList = (place: string): place is ListName => Object.hasOwn(rowsOf, place);

/**
 * Waits for what a page that is being opened surely needs, before anything of it is drawn: otherwise each part waits until the one it
 * stands in is there. What `askFirst` has asked for is on its way. What fails is said by whoever shows it.
 * Gives when all that is there, or after a while: what is drawn before is drawn twice.
 */
export function askAhead(queries: QueryClient, { pathname: path, search }: Location): Promise<unknown> {
  const params = new URLSearchParams(search);
  const ask = async () => {
    const { person, dates } = await queries.fetchQuery(sessionQuery);
    if (!person) return;
    keepClock(person.timeZone, dates);
    const answers = askForPlace(person.id);
    // While they are on their way; the bench is seen before it tells any time.
    if (placeNamed(path) !== "bench") clockZone();
    await answers;
  };
  const askForPlace = async (me: string) => {
    const [, place = "", id] = path.split("/");
    if (place === "") return askForDesk();
    if (place === "packages") return id && askForBench(id);
    return isList(place) && askForList(place, me);
  };
  // Its rows, one's views of it, and whose names it offers.
  const askForList = (list: ListName, me: string) =>
    Promise.all([
      ...rowsOf[list]!(queries, (name) => params.get(name) ?? "", me),
      queries.prefetchQuery(viewsQuery(list)),
      queries.prefetchQuery(peopleQuery),
    ]);
  const askForDesk = async () => {
    const pins = queries.prefetchQuery(pinsQuery);
    const first = firstOnDesk(await queries.fetchQuery(deskQuery));
    await Promise.all([pins, first && queries.prefetchQuery(packageQuery(first.id))]);
  };
  const askForBench = async (id: string) => {
    const item = itemNamed((await queries.fetchQuery(packageQuery(id))).items, params);
    // To draw the bench holds up its picture as much as to fetch it.
    if (item) await Promise.all([queries.prefetchQuery(sheetsQuery(item.draft)), firstSeen()]);
  };
  const asked = ask()
    .catch(() => undefined)
    .finally(api.forgetAhead);
  return Promise.race([
    Promise.all([asked, placeAt(path)?.fetch()]),
    new Promise((later) => setTimeout(later, LONGEST)),
  ]);
}
