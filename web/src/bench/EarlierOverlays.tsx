import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { newKey } from "../api/key";
import { useAct } from "../api/useAct";
import type { EarlierOverlay } from "../api/types";
import { Button, Fault } from "../ui/kit";

/** One's overlays on earlier drafts of the document, to be copied to this one on purpose. */
export function EarlierOverlays({ draft, onCopied }: { draft: string; onCopied: (overlay: string) => void }) {
  const { data } = useQuery({
    queryKey: ["earlier overlays", draft],
    queryFn: () => api.get(`/drafts/${draft}/overlays/earlier`),
  });
  if (!data || data.length === 0) return null;
  return (
    <>
      <p className="label mt-3 mb-1">Yours on earlier drafts</p>
      {data.map((o) => (
        <Earlier key={o.id} o={o} draft={draft} onCopied={onCopied} />
      ))}
    </>
  );
}

type Props = { o: EarlierOverlay; draft: string; onCopied: (overlay: string) => void };

function Earlier({ o, draft, onCopied }: Props) {
  const client = useQueryClient();
  const [id] = useState(newKey);
  const [said, setSaid] = useState("");
  const copying = useAct(async () => {
    const { drawn, left } = await api.post(`/drafts/${draft}/overlays/${id}/copied`, { from: o.id });
    await client.invalidateQueries({ queryKey: ["overlay", draft] });
    onCopied(id);
    const off = left > 0 ? ` ${left} would lie off this draft and ${left === 1 ? "was" : "were"} left out.` : "";
    setSaid(drawn === 0 && left === 0 ? "They were copied before." : `${drawn} copied.${off}`);
  });
  return (
    <>
      <div className="flex min-h-8 items-center gap-2">
        <span className="truncate" dir="auto" title={o.name}>
          {o.name}
        </span>
        <span className="ml-auto text-sm whitespace-nowrap text-soft">
          draft {o.draft} · <span className="font-mono">{o.count}</span>
        </span>
        <Button
          onClick={() => void copying.run()}
          disabled={copying.isBusy}
          aria-label={`Copy ${o.name} of draft ${o.draft} to this draft`}
        >
          Copy here
        </Button>
      </div>
      <p role="status" className="text-sm text-soft">
        {said}
      </p>
      <Fault>{copying.fault}</Fault>
    </>
  );
}
