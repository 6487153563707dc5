import { useEffect, useState } from "react";
import { useLocation, useSearchParams } from "react-router";
import type { NamedDocument, PackageView } from "../api/types";
import { picturePath } from "../viewer/picturePath";

/** A leaf of a draft beside the one that is worked on. */
export type Beside = { draft: string; leaf: number };

/** Which item, draft and leaf of a package lie on the bench; the address says the same, so that a link shows the same. */
export function useShown(p: PackageView, first: { document?: string; leaf?: number }) {
  const { pathname: here } = useLocation();
  const [params, setParams] = useSearchParams();
  const [index, setIndex] = useState(() => {
    const number = params.get("item");
    return Math.max(
      0,
      p.items.findIndex((i) => (first.document ? i.document === first.document : i.number === number)),
    );
  });
  const item = p.items[Math.min(index, p.items.length - 1)]!;
  const [draftOf, setDraftOf] = useState<string | null>(() => (first.document ? null : params.get("draft")));
  const [position, setPosition] = useState(() => first.leaf ?? Math.max(0, Number(params.get("sheet") ?? 1) - 1 || 0));
  const [beside, setBeside] = useState<Beside | null>(() => {
    const [draft, sheet] = (params.get("beside") ?? "").split("/");
    return draft ? { draft, leaf: Math.max(0, Number(sheet) - 1 || 0) } : null;
  });
  const draft = draftOf && item.earlierDrafts.some((e) => e.draft === draftOf) ? draftOf : item.draft;
  const address = JSON.stringify([
    item.number,
    draft === item.draft ? "" : draft,
    position === 0 ? "" : `${position + 1}`,
    beside ? `${beside.draft}/${beside.leaf + 1}` : "",
  ]);
  useEffect(() => {
    // Whoever has gone on before this is written is not led back.
    if (window.location.pathname !== here) return;
    const [number, earlier, sheet, pane] = JSON.parse(address) as string[];
    const now = new URLSearchParams(window.location.search);
    const was = now.toString();
    now.delete("note");
    now.delete("marked");
    for (const [name, value] of [
      ["item", number],
      ["draft", earlier],
      ["sheet", sheet],
      ["beside", pane],
    ] as const)
      if (value) now.set(name, value);
      else now.delete(name);
    // An address that is written anew has the whole page drawn anew.
    if (now.toString() !== was) setParams(now, { replace: true });
  }, [address, here, setParams]);
  return { index, setIndex, item, draft, setDraftOf, position, setPosition, beside, setBeside };
}

/** Where a document is looked at beside: its draft in the package, or its newest where it is in none of the items. */
export const besideOf = (p: PackageView, { name }: Pick<NamedDocument, "name">): Beside => ({
  draft: p.items.find((i) => i.document === name.document)?.draft ?? name.draft,
  leaf: 0,
});

/** What is likeliest wanted beside a leaf: the next sheet of the draft, an earlier draft, the next item. */
export function likeliestBeside(p: PackageView, index: number, draft: string, leaf: number, sheets: number): Beside {
  const item = p.items[index]!;
  const earlier = item.earlierDrafts[item.earlierDrafts.length - 1];
  if (draft === item.draft && earlier) return { draft: earlier.draft, leaf };
  if (draft !== item.draft) return { draft: item.draft, leaf };
  if (sheets > 1) return { draft, leaf: (leaf + 1) % sheets };
  return { draft: p.items[(index + 1) % p.items.length]!.draft, leaf: 0 };
}

/** Where a picture that lies on a drawing is to be had: of the item whose file has its name. */
export function pictureOf(p: PackageView, file: string): string | null {
  const item = p.items.find((i) => i.fileName.toLowerCase() === file.toLowerCase());
  return item ? picturePath(item.draft, 0) : null;
}
