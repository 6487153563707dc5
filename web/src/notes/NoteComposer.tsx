import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api } from "../api/client";
import { newKey } from "../api/key";
import type { NoteKind, PackageView, Shape } from "../api/types";
import { useMe } from "../session/me";
import { Button, Fault } from "../ui/kit";
import { PersonSelect } from "../ui/PersonSelect";
import { usePeople } from "../ui/people";
import { MarkPath } from "../viewer/MarkPath";
import { anchorOf, placeOf, reachOf } from "../viewer/shapes";
import type { Place } from "../viewer/sheet";
import { kindColour } from "./kinds";

const kinds: { kind: NoteKind; words: string; hint: string }[] = [
  { kind: "request", words: "Request", hint: "A change that must be made" },
  { kind: "question", words: "Question", hint: "Wants an answer" },
  { kind: "remark", words: "Remark", hint: "No answer needed" },
];

/** What a note is being written for: a markup just drawn, or the draft as a whole. */
export type Composing = { mark: { id: string; overlay: string | null; leaf: number; shape: Shape } | null };

type Props = {
  p: PackageView;
  draft: string;
  composing: Composing;
  /** Where the sheet lies in the window; null when the note is written beside it. */
  where: { place: Place; unit: number } | null;
  canRequest: boolean;
  /** Keeps the markup without words. */
  onKeep: (() => void) | null;
  onDone: () => void;
};

/** Words for a markup just drawn, or for the whole. What was typed stays until it is stored or thrown away. */
export function NoteComposer({ p, draft, composing, where, canRequest, onKeep, onDone }: Props) {
  const client = useQueryClient();
  const [kind, setKind] = useState<NoteKind>(canRequest ? "request" : "remark");
  const [body, setBody] = useState("");
  const me = useMe();
  // The originator's own question asks somebody; every other one asks the originator.
  const asksSomebody = kind === "question" && p.originator === me.id;
  const people = usePeople();
  const [of, setOf] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // One markup, one note: however often it is sent.
  const [key] = useState(newKey);
  const words = useRef<HTMLTextAreaElement>(null);
  useEffect(() => words.current?.focus(), []);
  const save = async () => {
    if (busy || !body.trim() || (asksSomebody && !of)) return;
    setBusy(true);
    setFault(null);
    try {
      const { mark } = composing;
      await api.post(`/packages/${p.id}/notes`, {
        draft,
        kind,
        body,
        key,
        of: asksSomebody ? of : null,
        marks: mark
          ? [
              {
                id: mark.id,
                overlay: mark.overlay,
                place: placeOf(mark.shape, mark.leaf),
                shape: mark.shape,
                version: 0,
              },
            ]
          : [],
      });
      await client.invalidateQueries({ queryKey: ["overlay", draft] });
      await client.invalidateQueries({ queryKey: ["package", p.id] });
      onDone();
    } catch (e) {
      setFault((e as Error).message);
      setBusy(false);
    }
  };
  const { mark } = composing;
  const drawn = where && mark && { at: where.place(anchorOf(mark.shape)), ends: reachOf(mark.shape).map(where.place) };
  const corner = drawn && {
    x: Math.min(...drawn.ends.map((e) => e.x)),
    y: Math.max(...drawn.ends.map((e) => e.y)) + 12,
  };
  return (
    <>
      {where && mark && drawn && mark.shape.shape !== "cells" && (
        <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
          <MarkPath shape={mark.shape} unit={where.unit} {...drawn.at} className={kindColour[kind]} />
        </svg>
      )}
      <form
        data-on-sheet
        className={
          corner
            ? "absolute z-30 w-80 cursor-default rounded-md border border-rule bg-raised p-3 shadow-xl select-text"
            : "py-1"
        }
        style={
          corner
            ? {
                left: `clamp(56px, ${corner.x}px, calc(100% - 332px))`,
                top: `clamp(8px, ${corner.y}px, calc(100% - 230px))`,
              }
            : undefined
        }
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
        {asksSomebody && (
          <PersonSelect
            label="Whom you ask"
            nobody="whom you ask"
            people={[...people.values()].filter((x) => x.id !== me.id)}
            value={of}
            onChange={setOf}
          />
        )}
        {kind === "request" && p.may.seats.length === 0 && (
          <p className="mt-1 border-l-[3px] border-ochre pl-2">
            You have signed. This request takes your signature back and opens your seat again.
          </p>
        )}
        <Fault>{fault}</Fault>
        <div className="mt-2 flex justify-end gap-2">
          <Button look="quiet" onClick={onDone}>
            Discard
          </Button>
          {onKeep && !body.trim() && (
            <Button look="quiet" onClick={onKeep}>
              Keep without words
            </Button>
          )}
          <Button look="main" type="submit" disabled={busy || !body.trim() || (asksSomebody && !of)}>
            Add {kind}
          </Button>
        </div>
      </form>
    </>
  );
}
