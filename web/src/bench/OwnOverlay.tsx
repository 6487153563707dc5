import { useQueryClient } from "@tanstack/react-query";
import { useId, useState, type ReactNode } from "react";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import type { DraftOverlay } from "../api/types";
import { Button, Fault } from "../ui/kit";
import { LookFields } from "./LookFields";

type Props = {
  o: DraftOverlay;
  draft: string;
  line: ReactNode;
  mayDraw: boolean;
  mayShare: boolean;
  isActive: boolean;
  onActive: () => void;
  /** One's other overlays on the draft. */
  others: readonly DraftOverlay[];
  onMove: (to: DraftOverlay) => void;
};

/** An overlay of one's own: shown or not, drawn on, named, shared, merged with another and put away. */
export function OwnOverlay({ o, line, mayDraw, isActive, onActive, ...p }: Props) {
  const [isOpen, setOpen] = useState(false);
  return (
    <div className={isOpen ? "my-1 border-y border-rule py-1" : undefined}>
      <div className="flex items-center gap-2">
        {line}
        {mayDraw && (
          <label className="flex items-center gap-1 text-sm" title="What you draw goes on this overlay">
            <input type="radio" className="accent-spruce" checked={isActive} onChange={onActive} /> draw
          </label>
        )}
        <button
          type="button"
          className="text-sm underline"
          aria-expanded={isOpen}
          aria-label={`Change ${o.name}`}
          onClick={() => setOpen(!isOpen)}
        >
          Change
        </button>
      </div>
      {o.isPrivate && !isOpen && <p className="pb-1 pl-6 text-sm text-soft">Only you see this until you sign.</p>}
      {isOpen && <Change o={o} mayDraw={mayDraw} {...p} onDone={() => setOpen(false)} />}
    </div>
  );
}

type ChangeProps = Omit<Props, "line" | "isActive" | "onActive"> & { onDone: () => void };

function Change({ o, draft, mayDraw, mayShare, others, onMove, onDone }: ChangeProps) {
  const client = useQueryClient();
  const [name, setName] = useState(o.name);
  const [isPrivate, setPrivate] = useState(o.isPrivate);
  const [look, setLook] = useState(o.look);
  const [keepsLook, setKeepsLook] = useState(false);
  const [to, setTo] = useState("");
  const hint = useId();
  const path = `/drafts/${draft}/overlays/${o.id}` as const;
  const again = () => client.invalidateQueries({ queryKey: ["overlay", draft] });
  const keeping = useAct(async () => {
    await api.put(path, { name, isPrivate, look, keepsLook });
    await again();
    onDone();
  });
  const removing = useAct(async () => {
    await api.delete(path);
    await again();
  });
  const target = others.find((other) => other.id === to);
  return (
    <form
      className="grid gap-2 py-2"
      onSubmit={(e) => {
        e.preventDefault();
        void keeping.run();
      }}
      onKeyDown={(e) => {
        if (e.key === "Escape") onDone();
      }}
    >
      <input
        className="field"
        autoFocus
        aria-label="Name of the overlay"
        maxLength={60}
        dir="auto"
        data-own-escape
        disabled={!mayDraw}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1 accent-spruce"
          data-own-escape
          aria-describedby={hint}
          checked={isPrivate}
          // In a step where everybody looks for themselves it stays so.
          disabled={isPrivate && !mayShare}
          onChange={(e) => setPrivate(e.target.checked)}
        />
        <span>
          Only I see it until I sign
          <span id={hint} className="block text-sm text-soft">
            {isPrivate && !mayShare
              ? "In this step everybody looks for themselves."
              : "Notes and their places are seen all the same."}
          </span>
        </span>
      </label>
      {mayDraw && (
        <>
          <LookFields value={look} onChange={setLook} />
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-spruce"
              data-own-escape
              checked={keepsLook}
              onChange={(e) => setKeepsLook(e.target.checked)}
            />
            My new overlays look like this
          </label>
        </>
      )}
      <span className="flex gap-2">
        <Button look="main" type="submit" disabled={keeping.isBusy || !name.trim()}>
          Keep
        </Button>
        <Button onClick={onDone}>Cancel</Button>
        {mayDraw && o.markups.length === 0 && (
          <Button onClick={() => void removing.run()} disabled={removing.isBusy}>
            Put away
          </Button>
        )}
      </span>
      {mayDraw && o.markups.length > 0 && others.length > 0 && (
        <span className="flex gap-2">
          <select
            className="field"
            aria-label="Another overlay"
            data-own-escape
            value={to}
            onChange={(e) => setTo(e.target.value)}
          >
            <option value="">Merge into …</option>
            {others.map((other) => (
              <option key={other.id} value={other.id}>
                {other.name}
              </option>
            ))}
          </select>
          <Button
            disabled={!target}
            onClick={() => {
              onMove(target!);
              onDone();
            }}
          >
            Merge
          </Button>
        </span>
      )}
      <Fault>{keeping.fault || removing.fault}</Fault>
    </form>
  );
}
