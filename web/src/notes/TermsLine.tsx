import type { NoteRow } from "../api/types";
import { dayWords } from "../ui/time";

/** What a note says besides its words. */
export function TermsLine({ terms, presses }: { terms: NoteRow["terms"]; presses: boolean }) {
  const { urgent, due, tags, onPackage } = terms;
  if (!urgent && !due && tags.length === 0 && !onPackage) return null;
  return (
    <span className="flex flex-wrap items-center gap-x-2 text-sm text-soft">
      {urgent && <b className="font-semibold text-rust">Urgent</b>}
      {due && (
        <span className={presses && !urgent ? "font-semibold text-rust" : undefined}>wanted by {dayWords(due)}</span>
      )}
      {onPackage && <span>on the whole package</span>}
      {tags.map((tag) => (
        <span key={tag} className="rounded-[3px] border border-edge px-1" dir="auto">
          {tag}
        </span>
      ))}
    </span>
  );
}
