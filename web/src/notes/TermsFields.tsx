import { useState } from "react";
import type { NoteKind } from "../api/types";
import { DateField } from "../ui/DateField";
import type { Terms } from "./terms";

type Props = { kind: NoteKind; hasPlace: boolean; terms: Terms; onChange: (terms: Terms) => void };

/** What a note says besides its words: folded away until somebody wants it. */
export function TermsFields({ kind, hasPlace, terms, onChange }: Props) {
  const isUsed = terms.urgent || terms.due !== "" || terms.tags !== "" || terms.onPackage;
  const [isOpen, setOpen] = useState(isUsed);
  if (!isOpen)
    return (
      <button type="button" className="mt-1 min-h-6 text-sm underline" onClick={() => setOpen(true)}>
        {kind === "remark" ? "Tags" : "Urgent, by when, tags"}
        {kind !== "request" && !hasPlace && ", on the package"}
      </button>
    );
  return (
    <div className="mt-2 grid gap-1.5">
      {kind !== "remark" && (
        <div className="flex items-center gap-3">
          <label className="flex shrink-0 items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-spruce"
              checked={terms.urgent}
              onChange={(e) => onChange({ ...terms, urgent: e.target.checked })}
            />
            Urgent
          </label>
          <label className="flex min-w-0 items-center gap-1.5">
            <span className="shrink-0 text-soft">wanted by</span>
            <DateField label="Wanted by" value={terms.due} onChange={(due) => onChange({ ...terms, due })} />
          </label>
        </div>
      )}
      <input
        className="field"
        aria-label="Tags, parted by commas"
        placeholder="Tags, parted by commas"
        maxLength={260}
        dir="auto"
        value={terms.tags}
        onChange={(e) => onChange({ ...terms, tags: e.target.value })}
      />
      {kind !== "request" && !hasPlace && (
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-spruce"
            checked={terms.onPackage}
            onChange={(e) => onChange({ ...terms, onPackage: e.target.checked })}
          />
          On the whole package
        </label>
      )}
    </div>
  );
}
