import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api } from "../api/client";
import { newKey } from "../api/key";
import type { NoteKind, PackageView, Shape } from "../api/types";
import { Button, Fault } from "../ui/kit";
import { ShapePath, type Place } from "../viewer/SheetView";
import { kindColour } from "./Overlay";

const kinds: { kind: NoteKind; words: string; hint: string }[] = [
  { kind: "request", words: "Request", hint: "A change that must be made" },
  { kind: "question", words: "Question", hint: "Wants an answer" },
  { kind: "remark", words: "Remark", hint: "No answer needed" },
];

type Props = {
  p: PackageView;
  draft: string;
  sheet: number;
  shape: Shape;
  place: Place;
  canRequest: boolean;
  onDone: () => void;
};

/** Words for a markup just drawn. What was typed stays until it is stored or thrown away. */
export function NoteComposer({ p, draft, sheet, shape, place, canRequest, onDone }: Props) {
  const client = useQueryClient();
  const [kind, setKind] = useState<NoteKind>(canRequest ? "request" : "remark");
  const [body, setBody] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // One markup, one note: however often it is sent.
  const [key] = useState(newKey);
  const words = useRef<HTMLTextAreaElement>(null);
  useEffect(() => words.current?.focus(), []);
  const save = async () => {
    if (busy || !body.trim()) return;
    setBusy(true);
    setFault(null);
    try {
      await api.post(`/packages/${p.id}/notes`, { draft, sheet, kind, body, shape, key });
      await client.invalidateQueries({ queryKey: ["package", p.id] });
      onDone();
    } catch (e) {
      setFault((e as Error).message);
      setBusy(false);
    }
  };
  const [a, b] = [place(shape.from), place(shape.to)];
  const at = { x: Math.min(a.x, b.x), y: Math.max(a.y, b.y) + 12 };
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
        <ShapePath shape={shape} place={place} className={kindColour[kind]} />
      </svg>
      <form
        data-on-sheet
        className="absolute z-30 w-72 cursor-default rounded-md border border-rule bg-raised p-3 shadow-xl select-text"
        style={{ left: `clamp(56px, ${at.x}px, calc(100% - 300px))`, top: `clamp(8px, ${at.y}px, calc(100% - 230px))` }}
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === "Escape") onDone();
          if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) void save();
        }}
      >
        <div role="radiogroup" aria-label="Kind of note" className="mb-2 flex border border-ink">
          {kinds
            .filter((k) => canRequest || k.kind !== "request")
            .map((k) => (
              <button
                key={k.kind}
                type="button"
                role="radio"
                aria-checked={kind === k.kind}
                title={k.hint}
                className={`flex-1 border-l border-ink py-1 font-medium first:border-l-0 ${kind === k.kind ? "bg-ink text-raised" : ""}`}
                onClick={() => setKind(k.kind)}
              >
                {k.words}
              </button>
            ))}
        </div>
        <textarea
          ref={words}
          className="field"
          rows={3}
          maxLength={4000}
          aria-label="Words of the note"
          placeholder={
            kind === "request" ? "What must change" : kind === "question" ? "What you want to know" : "What you noticed"
          }
          value={body}
          onChange={(e) => setBody(e.target.value)}
        />
        <Fault>{fault}</Fault>
        <div className="mt-2 flex justify-end gap-2">
          <Button look="quiet" onClick={onDone}>
            Discard
          </Button>
          <Button look="main" type="submit" disabled={busy || !body.trim()}>
            Add {kind}
          </Button>
        </div>
      </form>
    </>
  );
}
