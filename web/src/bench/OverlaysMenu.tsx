import { useQueryClient } from "@tanstack/react-query";
import { SquareStack } from "lucide-react";
import { useState } from "react";
import { api } from "../api/client";
import { newKey } from "../api/key";
import { useAct } from "../api/useAct";
import type { DraftOverlay } from "../api/types";
import { useMe } from "../session/me";
import { EarlierOverlays } from "./EarlierOverlays";
import { OwnOverlay } from "./OwnOverlay";
import { Button, Fault } from "../ui/kit";
import { BarPopover } from "./BarPopover";

/** What earlier drafts brought along lies on no overlay of this one. */
export const CARRIED = "carried";
/** Nor does what came with the file. */
export const FROM_FILE = "from file";

type Props = {
  draft: string;
  overlays: readonly DraftOverlay[];
  mayDraw: boolean;
  /** Whether what one draws may be shown before one signs. */
  mayShare: boolean;
  /** Puts all that lies on one overlay of one's own on another. */
  onMove: (from: DraftOverlay, to: DraftOverlay) => void;
  /** How many markups of earlier drafts lie here. */
  carried: number;
  /** How many marks came with the file. */
  fromFile: number;
  hidden: ReadonlySet<string>;
  setHidden: (hidden: ReadonlySet<string>) => void;
  /** One's own overlay that is drawn on. */
  active: string | null;
  setActive: (overlay: string) => void;
};

/** Whose overlays lie over the draft: shown and hidden, one's own named, made and chosen to draw on. */
export function OverlaysMenu(p: Props) {
  const me = useMe();
  const own = p.overlays.filter((o) => o.owner === me.id);
  const others = p.overlays.filter((o) => o.owner !== me.id);
  const all = [
    ...p.overlays.map((o) => o.id),
    ...(p.carried > 0 ? [CARRIED] : []),
    ...(p.fromFile > 0 ? [FROM_FILE] : []),
  ];
  const shown = all.filter((id) => !p.hidden.has(id)).length;
  const show = (id: string, on: boolean) =>
    p.setHidden(new Set(on ? [...p.hidden].filter((h) => h !== id) : [...p.hidden, id]));
  const line = (id: string, name: string, count: number, round: number | null = null) => (
    <label className="flex min-w-0 flex-1 items-center gap-2 py-1">
      <input
        type="checkbox"
        className="accent-spruce"
        checked={!p.hidden.has(id)}
        onChange={(e) => show(id, e.target.checked)}
      />
      <span className="truncate" dir="auto" title={name}>
        {name}
      </span>
      <span className="ml-auto whitespace-nowrap text-sm text-soft">
        {round !== null && `round ${round} · `}
        <span className="font-mono">{count}</span>
      </span>
    </label>
  );
  return (
    <BarPopover
      icon={<SquareStack size={15} />}
      words={`Overlays ${shown === all.length ? all.length : `${shown} of ${all.length}`}`}
    >
      <p className="label mb-1">Yours on this draft</p>
      {own.length === 0 && (
        <p className="text-soft">
          {p.mayDraw ? "None yet: the first is made when you draw." : "You have drawn nothing here."}
        </p>
      )}
      {own.map((o) => (
        <OwnOverlay
          key={o.id}
          o={o}
          draft={p.draft}
          line={line(o.id, o.name, o.markups.length, o.round)}
          mayDraw={p.mayDraw}
          isActive={o.id === p.active}
          onActive={() => p.setActive(o.id)}
          mayShare={p.mayShare}
          others={own.filter((other) => other.id !== o.id)}
          onMove={(to) => p.onMove(o, to)}
        />
      ))}
      {p.mayDraw && <NewOverlay draft={p.draft} onMade={p.setActive} />}
      {p.mayDraw && <EarlierOverlays draft={p.draft} onCopied={p.setActive} />}
      {(others.length > 0 || p.carried > 0 || p.fromFile > 0) && (
        <p className="label mt-3 mb-1">Others’, and earlier</p>
      )}
      {others.map((o) => (
        <div key={o.id} className="flex">
          {line(o.id, `${o.ownerName} · ${o.name}`, o.markups.length, o.round)}
        </div>
      ))}
      {p.carried > 0 && <div className="flex">{line(CARRIED, "Carried from earlier drafts", p.carried)}</div>}
      {p.fromFile > 0 && <div className="flex">{line(FROM_FILE, "From the file", p.fromFile)}</div>}
      {all.length > 1 && (
        <div className="mt-2 flex gap-3">
          <button type="button" className="underline" onClick={() => p.setHidden(new Set())}>
            Show all
          </button>
          <button type="button" className="underline" onClick={() => p.setHidden(new Set(all))}>
            Plain sheet
          </button>
        </div>
      )}
    </BarPopover>
  );
}

function NewOverlay({ draft, onMade }: { draft: string; onMade: (id: string) => void }) {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [id, setId] = useState(newKey);
  const making = useAct(async () => {
    await api.put(`/drafts/${draft}/overlays/${id}`, { name, keepsLook: false });
    onMade(id);
    setId(newKey());
    setName("");
    await client.invalidateQueries({ queryKey: ["overlay", draft] });
  });
  return (
    <form
      className="mt-1"
      onSubmit={(e) => {
        e.preventDefault();
        void making.run();
      }}
    >
      <span className="flex gap-2">
        <input
          className="field"
          aria-label="Name of a new overlay"
          placeholder="Another overlay, by name"
          maxLength={60}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" disabled={making.isBusy || !name.trim()}>
          Add
        </Button>
      </span>
      <Fault>{making.fault}</Fault>
    </form>
  );
}
