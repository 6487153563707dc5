import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import type { NoteKind, PackageView, Shape } from "../api/types";
import { useMe } from "../session/me";
import { Choices } from "../ui/Choices";
import { Button, Fault } from "../ui/kit";
import { PersonSelect } from "../ui/PersonSelect";
import { usePeople } from "../ui/people";
import { isStillIn } from "../ui/unlessGoneOn";
import { MarkPath } from "../viewer/MarkPath";
import { anchorOf, isInSpace, placeOf, reachOf } from "../viewer/shapes";
import type { Mark } from "../viewer/markup/store";
import type { Place } from "../viewer/sheet";
import type { Begun } from "./begun";
import { kindColour } from "./kinds";
import { BLANK, namedIn } from "./suggesting";
import { noTerms, termsFor } from "./terms";
import { TermsFields } from "./TermsFields";
import { focusSheet } from "../viewer/focusSheet";
import { usePartners, usePhrases } from "./usePhrases";
import { WordsField } from "./WordsField";

const kinds: { kind: NoteKind; words: string; hint: string }[] = [
  { kind: "request", words: "Request", hint: "A change that must be made" },
  { kind: "question", words: "Question", hint: "Wants an answer" },
  { kind: "remark", words: "Remark", hint: "No answer needed" },
];

type Props = {
  p: PackageView;
  draft: string;
  begun: Begun;
  /** The markup that it is for, where that lies on the sheet already, and its version there; 0 for one that is new. */
  lying?: Pick<Mark, "overlay" | "shape" | "tie" | "rank"> | null;
  version?: number;
  onChange: (begun: Begun) => void;
  /** Where the sheet lies in the window; null when the note is written beside it. */
  where: { place: Place; unit: number; seen?: Shape } | null;
  canRequest: boolean;
  /** Keeps the markup without words. */
  onKeep: (() => void) | null;
  /** Puts it out of sight; what was typed is kept. */
  onFold: () => void;
  /** It is stored, or thrown away. */
  onDone: () => void;
};

/** Words for a markup just drawn, or for the whole. What was typed stays until it is stored or thrown away. */
export function NoteComposer({
  p,
  draft,
  begun,
  lying,
  version = 0,
  onChange,
  where,
  canRequest,
  onKeep,
  onFold,
  onDone,
}: Props) {
  const client = useQueryClient();
  const me = useMe();
  const people = usePeople();
  const [partners, phrases] = [usePartners(p), usePhrases()];
  const { body, of } = begun;
  const mark = begun.mark && { ...begun.mark, ...(lying && { overlay: lying.overlay, shape: lying.shape }) };
  const kind = begun.kind ?? (canRequest ? "request" : "remark");
  // The originator's own question asks somebody; every other one asks the originator.
  const asksSomebody = kind === "question" && p.originator === me.id;
  const words = useRef<HTMLTextAreaElement>(null);
  useEffect(() => words.current?.focus(), []);
  const isReady = body.trim() !== "" && (!asksSomebody || of !== "");
  const adding = useAct(async () => {
    await api.post(`/packages/${p.id}/notes`, {
      draft,
      kind,
      body,
      key: begun.key,
      of: asksSomebody ? of : null,
      terms: termsFor(begun.terms ?? noTerms, kind, mark !== null),
      mentions: namedIn(body, partners),
      marks: mark
        ? [
            {
              id: mark.id,
              overlay: mark.overlay,
              place: placeOf(mark.shape, mark.leaf),
              shape: mark.shape,
              version,
              tie: lying?.tie ?? null,
              rank: lying?.rank ?? 0,
            },
          ]
        : [],
    });
    await client.invalidateQueries({ queryKey: ["overlay", draft] });
    await client.invalidateQueries({ queryKey: ["package", p.id] });
    onDone();
  });
  const save = () => {
    if (!isReady) return;
    void adding.run();
    // What is pressed from here on is for the sheet: words typed into a note that is on its way would go with the field.
    if (where) focusSheet();
  };
  useEffect(() => {
    if (!adding.fault || !words.current) return;
    if (document.activeElement?.id === "sheet" || isStillIn(words.current.form)) words.current.focus();
  }, [adding.fault]);
  // What was drawn on a view of a model is seen on it as that is now.
  const shape = where?.seen ?? mark?.shape;
  const drawn = where && shape && { at: where.place(anchorOf(shape)), ends: reachOf(shape).map(where.place) };
  const corner = drawn && {
    x: Math.min(...drawn.ends.map((e) => e.x)),
    y: Math.max(...drawn.ends.map((e) => e.y)) + 12,
  };
  return (
    <>
      {where && !lying && drawn && shape.shape !== "cells" && !isInSpace(shape.shape) && (
        <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
          <MarkPath shape={shape} unit={where.unit} {...drawn.at} className={kindColour[kind]} />
        </svg>
      )}
      <form
        data-on-sheet
        className={
          corner
            ? "absolute z-30 w-[352px] max-w-[calc(100%-16px)] cursor-default rounded-md border border-rule bg-raised p-3 shadow-xl select-text"
            : "py-1"
        }
        style={
          corner
            ? {
                left: `clamp(8px, ${corner.x}px, max(8px, calc(100% - 364px)))`,
                top: `clamp(8px, ${corner.y}px, max(8px, calc(100% - 230px)))`,
              }
            : undefined
        }
        onSubmit={(e) => {
          e.preventDefault();
          save();
        }}
        onKeyDown={(e) => {
          const isChord = e.ctrlKey || e.metaKey;
          if (e.key === "Escape") {
            if (body.trim() === "") onDone();
            else onFold();
          } else if (e.key === "Enter" && isChord) save();
          else if (isChord) return;
          e.stopPropagation();
        }}
      >
        <fieldset disabled={adding.isBusy} className="min-w-0">
          <div className="mb-2">
            <Choices
              label="Kind of note"
              value={kind}
              onChange={(k) => onChange({ ...begun, kind: k })}
              options={kinds
                .filter((k) => canRequest || k.kind !== "request")
                .map((k) => ({ value: k.kind, shown: k.words, title: k.hint }))}
            />
          </div>
          <WordsField
            draft={draft}
            field={words}
            rows={3}
            label="Words of the note"
            people={partners}
            phrases={phrases}
            placeholder={
              kind === "request"
                ? "What must change"
                : kind === "question"
                  ? "What you want to know"
                  : "What you noticed"
            }
            value={body}
            onChange={(body) => onChange({ ...begun, body })}
          />
          <TermsFields
            kind={kind}
            hasPlace={mark !== null}
            terms={begun.terms ?? noTerms}
            onChange={(terms) => onChange({ ...begun, terms })}
          />
          {body.includes(BLANK) && (
            <p className="mt-1 text-sm text-soft">A blank is left to be filled: Tab goes to it.</p>
          )}
          {asksSomebody && (
            <PersonSelect
              label="Whom you ask"
              nobody="whom you ask"
              people={[...people.values()].filter((x) => x.id !== me.id)}
              value={of}
              onChange={(x) => onChange({ ...begun, of: x })}
            />
          )}
          {kind !== "remark" && !asksSomebody && p.originator !== me.id && (
            <p className="mt-1 text-sm text-soft">Asked of {people.get(p.originator)?.name ?? "whoever sent it"}.</p>
          )}
          {kind === "request" && p.may.seats.length === 0 && (
            <p className="mt-1 border-l-[3px] border-ochre pl-2">
              You have signed. This request takes your signature back and opens your seat again.
            </p>
          )}
          <Fault>{adding.fault}</Fault>
          <div className="mt-2 flex justify-end gap-2">
            <Button look="quiet" onClick={onDone}>
              Discard
            </Button>
            {onKeep && !body.trim() && (
              <Button look="quiet" onClick={onKeep}>
                Keep without words
              </Button>
            )}
            <Button look="main" type="submit" disabled={adding.isBusy || !isReady}>
              {adding.isBusy ? "Adding …" : `Add ${kind}`}
            </Button>
          </div>
        </fieldset>
      </form>
    </>
  );
}
