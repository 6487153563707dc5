import { useQuery } from "@tanstack/react-query";
import { useEffect, useState, useSyncExternalStore } from "react";
import { api } from "../api/client";
import { Marking, markOf } from "../viewer/markup/marking";

/** Drawing on the drafts of a bench: each keeps what can be undone while the bench is open, whichever is looked at. */
export function useMarking(draft: string) {
  const [all] = useState(() => new Map<string, Marking>());
  let marking = all.get(draft);
  if (!marking) all.set(draft, (marking = new Marking(draft)));
  const { data } = useQuery({ queryKey: ["overlay", draft], queryFn: () => api.get(`/drafts/${draft}/overlays`) });
  const { store } = marking;
  useEffect(() => {
    if (data) store.hear(data.overlays.flatMap((o) => o.markups.map(markOf)));
  }, [data, store]);
  useSyncExternalStore(marking.subscribe, marking.changes);
  // Changes that wait for a dead line are lost with the page: leaving it asks.
  useEffect(() => {
    const ask = (e: BeforeUnloadEvent) => {
      if ([...all.values()].some((m) => m.sync.state !== "saved")) e.preventDefault();
    };
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [all]);
  return { marking, overlays: data?.overlays ?? [], mayDraw: data?.mayDraw ?? false };
}
