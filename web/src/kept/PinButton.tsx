import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Pin, PinOff } from "lucide-react";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import type { Pinned } from "../api/types";
import { tell } from "../ui/announce";
import { pinsQuery } from "./pinsQuery";

/** What one has pinned, the last first. */
export const usePins = (): readonly Pinned[] => useQuery(pinsQuery).data ?? [];

/** Where what is pinned is read. */
export const placeOfPin = (pin: Pinned) => (pin.kind === "package" ? `/packages/${pin.id}` : `/register/${pin.id}`);

/** Pins a package or a document to the desk, or takes it off. */
export function PinButton({ kind, id, name }: { kind: Pinned["kind"]; id: string; name: string }) {
  const client = useQueryClient();
  const isPinned = usePins().some((p) => p.id === id);
  const act = useAct(async (key) => {
    const once = api.once(key);
    if (kind === "package") await (isPinned ? once.delete(`/pins/packages/${id}`) : once.put(`/pins/packages/${id}`));
    else await (isPinned ? once.delete(`/pins/documents/${id}`) : once.put(`/pins/documents/${id}`));
    await client.invalidateQueries({ queryKey: ["pins"] });
    tell(isPinned ? `${name} is pinned no more.` : `${name} is pinned to your desk.`);
  });
  const Icon = isPinned ? PinOff : Pin;
  return (
    <button
      type="button"
      aria-pressed={isPinned}
      aria-label={`Pin ${name} to the desk`}
      title={act.fault ?? (isPinned ? "Take it off the desk" : "Pin it to the desk, to have it at hand")}
      disabled={act.isBusy}
      className={`grid h-7 w-7 shrink-0 place-items-center rounded hover:bg-picked ${isPinned ? "text-spruce" : "text-soft"}`}
      onClick={() => void act.run()}
    >
      <Icon size={15} />
    </button>
  );
}
