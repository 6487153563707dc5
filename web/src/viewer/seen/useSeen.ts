import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useLayoutEffect, useMemo, useRef } from "react";
import { isSomebodyElse, mayHelpAgain } from "../../api/again";
import { api, personNow } from "../../api/client";
import type { SheetLeaf } from "../../api/types";
import type { Seen } from "./patches";
import { SeenTelling } from "./telling";

/** Milliseconds until views that could not be told are told again. */
const AGAIN = 5000;

/** What one has seen of a sheet, and telling more of it. */
export function useSeen(draft: string, leaf: SheetLeaf | undefined) {
  const client = useQueryClient();
  const position = leaf?.position ?? 0;
  const patches = leaf?.frame.patches ?? 0;
  const queryKey = useMemo(() => ["seen", draft, position, patches], [draft, position, patches]);
  const { data } = useQuery({
    queryKey,
    queryFn: () => api.get(`/drafts/${draft}/leaves/${position}/seen`),
    enabled: patches > 0,
    staleTime: Infinity,
    meta: { saysItself: true },
  });
  const isAll = useRef(false);
  useLayoutEffect(() => {
    isAll.current = data?.percent === 100;
  });
  const person = personNow();
  const telling = useMemo(
    () =>
      new SeenTelling(
        async (views) => {
          if (isSomebodyElse(person)) return;
          const seen = await api.tell(`/drafts/${draft}/leaves/${position}/seen`, {
            views: views.map(({ area, scale }) => ({
              area: { minX: area.left, minY: area.bottom, maxX: area.right, maxY: area.top },
              scale,
            })),
          });
          const before = client.getQueryData<typeof seen>(queryKey)?.percent;
          client.setQueryData(queryKey, seen);
          if (before !== seen.percent) void client.invalidateQueries({ queryKey: ["seen of package"] });
        },
        mayHelpAgain,
        AGAIN,
      ),
    [client, queryKey, draft, position, person],
  );
  const report = useCallback(
    (view: Seen) => {
      if (!isAll.current) telling.add(view);
    },
    [telling],
  );
  return { seen: data ?? null, report };
}
