import { useEffect, useRef } from "react";
import type { Shape } from "../api/types";
import { Button } from "../ui/kit";
import type { Place } from "../viewer/sheet";
import { anchorOf } from "../viewer/shapes";
import { LONGEST_WORDS } from "../viewer/shapes/words";

/** A markup whose words are being written: one that is new, or one that lies there. */
export type Writing = { id: string | null; leaf: number; overlay: string | null; shape: Shape; text: string };

/** What a shape says in words of its own; null for a kind that says nothing. */
export const wordsOf = (shape: Shape): string | null =>
  shape.shape === "onView"
    ? wordsOf(shape.drawn)
    : shape.shape === "words" || shape.shape === "leader" || shape.shape === "stamp"
      ? shape.text
      : shape.shape === "dimension"
        ? shape.wanted
        : null;

/** The shape with other words. */
export const withWords = (shape: Shape, text: string): Shape =>
  shape.shape === "onView"
    ? { ...shape, drawn: withWords(shape.drawn, text) }
    : shape.shape === "words" || shape.shape === "leader" || shape.shape === "stamp"
      ? { ...shape, text }
      : shape.shape === "dimension"
        ? { ...shape, wanted: text }
        : shape;

const LONGEST_WANTED = 60;

type Props = {
  writing: Writing;
  place: Place;
  /** What one has stamped before. */
  stamps: readonly string[];
  onChange: (text: string) => void;
  /** They are written, or thrown away where there are none. */
  onDone: () => void;
  onDiscard: () => void;
  /** They are left by key: what was typed is kept. */
  onLeave: () => void;
};

/** Words are written where they will stand. What is typed is kept until it is done or thrown away. */
export function WordsEditor({ writing, place, stamps, onChange, onDone, onDiscard, onLeave }: Props) {
  const field = useRef<HTMLTextAreaElement>(null);
  useEffect(() => field.current?.focus(), []);
  const { shape, text } = writing;
  const isWanted = shape.shape === "dimension";
  const isStamp = shape.shape === "stamp";
  const at = place(shape.shape === "leader" ? shape.from : shape.shape === "stamp" ? shape.at : anchorOf(shape));
  return (
    <form
      data-on-sheet
      className="absolute z-30 w-64 max-w-[calc(100%-16px)] cursor-default rounded-md border border-rule bg-raised p-2 shadow-xl select-text"
      style={{
        left: `clamp(8px, ${at.x}px, max(8px, calc(100% - 272px)))`,
        top: `clamp(8px, ${at.y}px, max(8px, calc(100% - 120px)))`,
      }}
      onSubmit={(e) => {
        e.preventDefault();
        onDone();
      }}
      onKeyDown={(e) => {
        if (e.key === "Escape") onLeave();
        else if (e.key === "Enter" && (isWanted || e.ctrlKey || e.metaKey) && !e.nativeEvent.isComposing) {
          e.preventDefault();
          onDone();
        } else if (e.ctrlKey || e.metaKey) return;
        e.stopPropagation();
      }}
    >
      <textarea
        ref={field}
        className="field"
        rows={isWanted ? 1 : 3}
        maxLength={isWanted ? LONGEST_WANTED : LONGEST_WORDS}
        dir="auto"
        aria-label={isWanted ? "Value asked for" : isStamp ? "Words of the stamp" : "Words on the sheet"}
        placeholder={isWanted ? "What it should be, such as 42 ±0.1" : "What is to stand here"}
        value={text}
        onChange={(e) => onChange(e.target.value)}
      />
      {isStamp && writing.id === null && (
        <>
          <p className="mt-1 text-sm text-soft">Your name and the day are put beneath.</p>
          {stamps.length > 0 && (
            <div className="mt-1 flex flex-wrap gap-1" role="group" aria-label="Stamped before">
              {stamps.map((s) => (
                <button
                  key={s}
                  type="button"
                  className="max-w-full truncate rounded border border-edge px-1.5 py-0.5 hover:bg-lit"
                  onClick={() => {
                    onChange(s);
                    field.current?.focus();
                  }}
                >
                  {s}
                </button>
              ))}
            </div>
          )}
        </>
      )}
      <div className="mt-1.5 flex justify-end gap-2">
        <Button look="quiet" onClick={onDiscard}>
          Discard
        </Button>
        <Button look="main" type="submit" disabled={!isWanted && text.trim() === ""}>
          {isWanted ? "Keep" : isStamp ? "Stamp" : "Write"}
        </Button>
      </div>
    </form>
  );
}
