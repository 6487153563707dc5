import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api } from "../api/client";
import { newKey } from "../api/key";
import type { PersonHere } from "../api/types";

/** How often a page says that it is still there, in milliseconds. */
const AGAIN = 20_000;
const nobody: readonly PersonHere[] = [];

/** Says which sheet one has before oneself, while somebody looks at the page; gives who else is there. */
export function usePresence(pack: string, draft: string, leaf: number): readonly PersonHere[] {
  const [page] = useState(newKey);
  const { data } = useQuery({
    queryKey: ["here", pack],
    queryFn: () => api.get(`/packages/${pack}/here`),
    refetchInterval: 1.5 * AGAIN,
    meta: { saysItself: true },
  });
  useEffect(() => {
    const say = () => {
      const isSeen = document.visibilityState === "visible";
      void api.tell(`/packages/${pack}/here`, { page, draft: isSeen ? draft : null, leaf }).catch(() => undefined);
    };
    say();
    const timer = setInterval(() => {
      if (document.visibilityState === "visible") say();
    }, AGAIN);
    document.addEventListener("visibilitychange", say);
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", say);
    };
  }, [pack, draft, leaf, page]);
  useEffect(
    () => () => void api.tell(`/packages/${pack}/here`, { page, draft: null, leaf: 0 }).catch(() => undefined),
    [pack, page],
  );
  return data ?? nobody;
}
