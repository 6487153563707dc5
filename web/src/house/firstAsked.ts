import { api } from "../api/client";
import { isSheet, type DeskView, type Leaf, type PackageItem } from "../api/types";
import { keptPanes } from "../viewer/pane";
import { picturePath } from "../viewer/picturePath";

/** The row of the desk that is summed up beside it when it opens. */
export const firstOnDesk = ({ toSign, toAnswer, toAdvise, waiting, informed }: DeskView) =>
  [toSign, toAnswer, toAdvise, waiting, informed].flat()[0];
/** The item of a package that its address names; without a name the first. */
export const itemNamed = (items: readonly PackageItem[], address: URLSearchParams) =>
  items.find((i) => i.number === address.get("item")) ?? items[0];
/** The leaf of an item that its address names; without a name the first. */
export const leafNamed = (leaves: readonly Leaf[], address: URLSearchParams) =>
  leaves.find((l) => `${l.position + 1}` === address.get("sheet")) ?? leaves[0];

/**
 * Whether the bench at an address shows its sheet where it lay before: one that says more than which sheet shows it otherwise, or another
 * beside it.
 */
const mayShowEarly = (search: string) =>
  Object.keys(keptPanes()).length > 0 &&
  [...new URLSearchParams(search).keys()].every((name) => name === "item" || name === "sheet");

/** What was asked for first, with a picture that is seen before its place. */
let first: Promise<void> = Promise.resolve();

/** Gives when all that was asked for first has come, and the picture that is seen before its place has been painted; never fails. */
export const firstSeen = () => first;

/**
 * Asks for what the desk or the bench of an address surely needs, while its script is still on its way: what one answer names is
 * asked for next, so that each waits for the one before it and not for a script as well.
 */
export function askFirst(address: Location): void {
  first = ask(address).catch(() => undefined);
}

async function ask({ pathname, search }: Location): Promise<void> {
  const [, place = "", id] = pathname.split("/");
  const session = api.ahead("/session");
  if (place === "") {
    // Who is not signed in has none.
    if (!(await session).person) return;
    void api.ahead("/pins");
    const first = firstOnDesk(await api.ahead("/desk"));
    if (first) void api.ahead(`/packages/${first.id}`);
  } else if (place === "packages" && id) {
    const early = import("../viewer/earlyPicture");
    const address = new URLSearchParams(search);
    const item = itemNamed((await api.ahead(`/packages/${id}`)).items, address);
    if (!item) return;
    const leaves = await api.ahead(`/drafts/${item.draft}/leaves`);
    const leaf = leafNamed(leaves, address);
    if (!isSheet(leaf)) return;
    fetchPicture(picturePath(item.draft, leaf.position));
    if (mayShowEarly(search)) await (await early).showEarly(item.draft, leaf, leaves.length);
  }
}

/** Has the browser fetch a picture that the page will show. */
function fetchPicture(path: string) {
  const link = document.createElement("link");
  [link.rel, link.as, link.href] = ["preload", "image", path];
  document.head.append(link);
}
