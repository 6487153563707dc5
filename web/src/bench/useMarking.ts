import { queryOptions, useQuery } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { api } from "../api/client";
import { keptPlace } from "../kept/useKept";
import { useMe } from "../session/me";
import { Marking, markOf } from "../viewer/markup/marking";
import { asking } from "../viewer/markup/store";
import type { Unsent } from "../viewer/markup/unsent";

/** What lies on a draft by the server, and when it was asked for. */
export const lyingOn = (draft: string) =>
  queryOptions({
    queryKey: ["overlay", draft],
    queryFn: async () => {
      const asked = asking();
      return { ...(await api.get(`/drafts/${draft}/overlays`)), asked };
    },
    // Ten thousand markups are not compared with the ones before, one by one: the store does that by their versions.
    structuralSharing: false,
  });

/** Drawing on the drafts of a bench: each keeps what can be undone while the bench is open, whichever is looked at. @param isOpen whether this one may be drawn on as far as its package says */
export function useMarking(draft: string, isOpen: boolean) {
  const me = useMe();
  const [all] = useState(() => new Map<string, Marking>());
  let marking = all.get(draft);
  if (!marking) all.set(draft, (marking = new Marking(draft, keptPlace<Unsent>(me.id, `drawn on ${draft}`))));
  const { data } = useQuery(lyingOn(draft));
  useEffect(() => {
    if (data)
      marking.hear(
        data.overlays.flatMap((o) => o.markups.map(markOf)),
        data.asked,
      );
  }, [data, marking]);
  useSyncExternalStore(marking.subscribe, marking.changes);
  return {
    marking,
    overlays: data?.overlays ?? [],
    // A tool may be taken before it is known what lies there, and is in hand once it is.
    mayTake: isOpen && data?.mayDraw !== false,
    canDraw: isOpen && data?.mayDraw === true,
    mayShare: data?.mayShare ?? false,
  };
}
