import { Phrases } from "../notes/Phrases";

/** Frequent wordings that everybody of the office is offered while they write a note. */
export function Wordings() {
  return (
    <section aria-label="Wordings" className="min-h-0 flex-1 overflow-y-auto px-6 py-5">
      <div className="max-w-2xl">
        <h2 className="text-lg font-semibold">Wordings</h2>
        <p className="mt-1 mb-3 text-soft">
          Everybody of the office is offered these while they write a note. Three underscores are a blank to be filled.
        </p>
        <Phrases isOffice mayChange />
      </div>
    </section>
  );
}
