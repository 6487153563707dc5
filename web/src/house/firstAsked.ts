import { api } from "../api/client";
import { isSheet, type DeskView, type Leaf, type PackageItem } from "../api/types";
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
 * Asks for what the desk or the bench of an address surely needs, while its script is still on its way: what one answer names is
 * asked for next, so that each waits for the one before it and not for a script as well.
 */
export async function askFirst({ pathname, search }: Location): Promise<void> {
  const [, place = "", id] = pathname.split("/");
  const session = api.ahead("/session");
  if (place === "") {
    // Who is not signed in has none.
    if (!(await session).person) return;
    void api.ahead("/pins");
    const first = firstOnDesk(await api.ahead("/desk"));
    if (first) void api.ahead(`/packages/${first.id}`);
  } else if (place === "packages" && id) {
    const address = new URLSearchParams(search);
    const item = itemNamed((await api.ahead(`/packages/${id}`)).items, address);
    if (!item) return;
    const leaf = leafNamed(await api.ahead(`/drafts/${item.draft}/leaves`), address);
    if (isSheet(leaf)) fetchPicture(picturePath(item.draft, leaf.position));
  }
}

/** Has the browser fetch a picture that the page will show. */
function fetchPicture(path: string) {
  const link = document.createElement("link");
  [link.rel, link.as, link.href] = ["preload", "image", path];
  document.head.append(link);
}
