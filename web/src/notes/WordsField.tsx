import { useId, useLayoutEffect, useRef, useState, type ClipboardEvent, type RefObject } from "react";
import { keepPicture, pictureIn } from "../api/pictures";
import { tell } from "../ui/announce";
import { pictureWord } from "../ui/pictureWord";
import { blankAfter, suggested, taken } from "./suggesting";

type Props = {
  label: string;
  placeholder: string;
  rows: number;
  value: string;
  onChange: (words: string) => void;
  people: readonly { id: string; name: string }[];
  phrases: readonly { id: string; words: string }[];
  isFirst?: boolean;
  /** The draft that pictures in it are kept with. */
  draft: string;
  field?: RefObject<HTMLTextAreaElement | null>;
  /** Whether they are on their way: what would be typed then would go with the field. */
  isSending?: boolean;
};

/** Words of a note: people are offered after an @, frequent wordings while one types; Tab goes from blank to blank. */
export function WordsField({ label, placeholder, rows, value, onChange, people, phrases, isFirst, ...p }: Props) {
  const own = useRef<HTMLTextAreaElement>(null);
  const field = p.field ?? own;
  const list = useId();
  const [at, setAt] = useState<number | null>(null);
  /** Which one the keys are at; -1 for none, so that Enter writes a line. */
  const [key, setKey] = useState(-1);
  const [picking, setPicking] = useState<{ from: number; to: number } | null>(null);
  const offer = at === null ? null : suggested(value, at, people, phrases);
  const all = offer?.all ?? [];
  useLayoutEffect(() => {
    if (!picking) return;
    field.current?.focus();
    field.current?.setSelectionRange(picking.from, picking.to);
    setPicking(null);
  }, [picking, field]);
  const take = (i: number) => {
    const next = taken(value, offer!.part, all[i]!.words);
    onChange(next.text);
    setPicking({ from: next.from, to: next.to });
    setAt(null);
    setKey(-1);
  };
  // While a picture is on its way, other things about the note may be changed.
  const latest = useRef(onChange);
  latest.current = onChange;
  /** A picture from the clipboard stands where it was pasted, by its name, until the note is shown. */
  const paste = (e: ClipboardEvent<HTMLTextAreaElement>) => {
    const file = pictureIn(e.clipboardData);
    if (!file || e.clipboardData.getData("text/plain") !== "") return;
    e.preventDefault();
    tell("The picture is being put into the note …");
    keepPicture(p.draft, file).then(
      ({ picture }) => {
        // The note is on its way, was stored or left: it is not begun anew with nothing but its picture.
        if (!field.current || field.current.matches(":disabled, :read-only"))
          return tell("The picture came too late for the note. Paste it again where it belongs.");
        const { value: now, selectionEnd } = field.current;
        latest.current(`${now.slice(0, selectionEnd)}${pictureWord(picture)}${now.slice(selectionEnd)}`);
      },
      (fault: Error) => tell(fault.message),
    );
  };
  const look = () => {
    const here = field.current;
    setAt(here && here.selectionStart === here.selectionEnd ? here.selectionStart : null);
    setKey(-1);
  };
  return (
    <>
      <textarea
        ref={field}
        className="field"
        rows={rows}
        autoFocus={isFirst}
        readOnly={p.isSending}
        maxLength={4000}
        dir="auto"
        aria-label={label}
        aria-autocomplete="list"
        aria-controls={all.length > 0 ? list : undefined}
        aria-activedescendant={key >= 0 && key < all.length ? `${list}-${key}` : undefined}
        placeholder={placeholder}
        value={value}
        onChange={(e) => {
          onChange(e.target.value);
          setAt(e.target.selectionStart);
          setKey(-1);
        }}
        onClick={look}
        onPaste={paste}
        onBlur={() => setAt(null)}
        onKeyDown={(e) => {
          if (e.nativeEvent.isComposing || e.ctrlKey || e.metaKey || e.altKey) return;
          const blank =
            e.key === "Tab" && !e.shiftKey && key < 0 ? blankAfter(value, e.currentTarget.selectionEnd) : null;
          if (all.length > 0 && (e.key === "ArrowDown" || e.key === "ArrowUp")) {
            const step = e.key === "ArrowDown" ? 1 : -1;
            setKey(key < 0 ? (step > 0 ? 0 : all.length - 1) : (key + step + all.length) % all.length);
          } else if (key >= 0 && key < all.length && (e.key === "Enter" || e.key === "Tab")) take(key);
          else if (all.length > 0 && e.key === "Escape") setAt(null);
          else if (blank) setPicking(blank);
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      />
      {all.length > 0 && (
        <ul id={list} role="listbox" aria-label="Offered words" className="mt-1 border border-rule bg-raised">
          {all.map((s, i) => (
            <li
              key={s.key}
              id={`${list}-${i}`}
              role="option"
              aria-selected={i === key}
              className={`cursor-pointer truncate px-2 py-1 ${i === key ? "bg-picked" : "hover:bg-lit"}`}
              title={s.shown}
              dir="auto"
              // The field keeps the keys.
              onMouseDown={(e) => e.preventDefault()}
              onClick={() => take(i)}
            >
              {s.shown}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
