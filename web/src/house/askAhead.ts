import type { QueryClient } from "@tanstack/react-query";
import { preload } from "react-dom";
import { isSheet } from "../api/types";
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
import { picturePath } from "../viewer/picturePath";
import { sheetsQuery } from "../viewer/sheetsQuery";
import { placeAt } from "./places";

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
 * Asks for what a page that is being opened surely needs, before anything of it is drawn: otherwise each part waits until the one it
 * stands in is there. What fails is said by whoever shows it.
 * Gives when all that is there, or after a while: what is drawn before is drawn twice.
 */
export function askAhead(queries: QueryClient, { pathname: path, search }: Location): Promise<unknown> {
  const params = new URLSearchParams(search);
  const ask = async () => {
    const { person, dates } = await queries.fetchQuery(sessionQuery);
    if (!person) return;
    keepClock(person.timeZone, dates);
    const answers = askForPlace(person.id);
    // While they are on their way: the first format of a page takes as long as the rest of its script.
    clockZone();
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
    const { toSign, toAnswer, toAdvise, waiting, informed } = await queries.fetchQuery(deskQuery);
    const [first] = [toSign, toAnswer, toAdvise, waiting, informed].flat();
    await Promise.all([pins, first && queries.prefetchQuery(packageQuery(first.id))]);
  };
  // The item and the sheet that the address names lie on the bench; without a name the first.
  const askForBench = async (id: string) => {
    const { items } = await queries.fetchQuery(packageQuery(id));
    const item = items.find((i) => i.number === params.get("item")) ?? items[0];
    if (!item) return;
    const leaves = await queries.fetchQuery(sheetsQuery(item.draft));
    const leaf = leaves.find((l) => `${l.position + 1}` === params.get("sheet")) ?? leaves[0];
    if (isSheet(leaf)) preload(picturePath(item.draft, leaf.position), { as: "image" });
  };
  const asked = ask().catch(() => undefined);
  // After what is asked of the server: naming the script's many files to the browser takes longer.
  const script = new Promise<void>((later) => setTimeout(later)).then(() => placeAt(path)?.fetch());
  return Promise.race([Promise.all([asked, script]), new Promise((later) => setTimeout(later, LONGEST))]);
}
