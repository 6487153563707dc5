import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api } from "../../api/client";
import { useSettled } from "../../ui/useSettled";
import type { FoundStretch, Point } from "../../api/types";

export type Scope = "sheet" | "document" | "package";

/** A place where what was asked for stands. */
export type Hit = { draft: string; leaf: number; leafName: string; line: string; covers: readonly FoundStretch[] };

type Where = { draft: string; leaf: number; package?: string };

/** What a person looks for and what was found. */
export function useFind(where: Where, first = "") {
  const [isOpen, setOpen] = useState(first !== "");
  const [words, setWords] = useState(first);
  const [scope, setScope] = useState<Scope>(first === "" ? "sheet" : "document");
  const [active, setActive] = useState<Hit | null>(null);
  const asked = useSettled(words.trim());
  const inPackage = scope === "package" && where.package !== undefined;
  const { data, error, isFetching } = useQuery({
    queryKey: ["find", inPackage ? where.package : where.draft, asked],
    queryFn: () =>
      inPackage
        ? api.get(`/packages/${where.package}/find`, { words: asked })
        : api.get(`/drafts/${where.draft}/find`, { words: asked }),
    enabled: isOpen && asked !== "",
    placeholderData: keepPreviousData,
    meta: { saysItself: true },
  });
  // The same places stay the same objects on whichever sheet one is: the one gone to is known by that.
  const all = useMemo<Hit[]>(
    () =>
      data && asked !== ""
        ? data.leaves.flatMap(({ draft, leaf, leafName, places }) =>
            places.map((p) => ({ draft, leaf, leafName, line: p.line, covers: p.covers })),
          )
        : [],
    [data, asked],
  );
  const hits = useMemo(
    () => (scope === "sheet" ? all.filter((h) => h.leaf === where.leaf) : all),
    [all, scope, where.leaf],
  );
  const close = () => {
    setOpen(false);
    setActive(null);
  };
  return {
    isOpen,
    open: () => setOpen(true),
    close,
    words,
    setWords,
    scope,
    setScope,
    hits: isOpen ? hits : [],
    isAll: data?.isAll ?? true,
    isFetching,
    isSettled: asked === words.trim(),
    error: error as Error | null,
    active,
    setActive,
  };
}

export type Find = ReturnType<typeof useFind>;

/** The corners of a stretch of a line, with a little room above and below its letters. */
export function cornersOf({ at, along, up }: FoundStretch): Point[] {
  const corner = (a: number, b: number): Point => ({
    x: at.x + along.x * a + up.x * b,
    y: at.y + along.y * a + up.y * b,
  });
  return [corner(-0.01, -0.3), corner(1.01, -0.3), corner(1.01, 1.1), corner(-0.01, 1.1)];
}
