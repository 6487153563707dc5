import type { NoteMark, NoteRow, PackageView } from "../api/types";

type Props = { n: NoteRow; items: PackageView["items"]; onPick: (m: NoteMark) => void };

/** The places of a note that has several, each to be gone to: by its zone, with its document's number where that is another. */
export function Places({ n, items, onPick }: Props) {
  if (n.marks.length < 2) return null;
  const document = (m: NoteMark) => items.find((i) => i.document === m.document)?.number ?? "";
  return (
    <p className="mt-1 flex flex-wrap gap-x-2 text-sm text-soft">
      {n.marks.length} places:
      {n.marks.map((m, i) => (
        <button key={m.id} type="button" className="font-mono underline" onClick={() => onPick(m)}>
          {m.document === n.document ? (m.zone ?? i + 1) : `${document(m)} ${m.zone ?? ""}`.trim()}
        </button>
      ))}
    </p>
  );
}
