import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import type { Point, TypedOverRow } from "../api/types";
import { Button, Fault } from "../ui/kit";

type Props = {
  draft: string;
  /** What a sheet is called. */
  nameOf: (position: number) => string;
  onGo: (leaf: number, points: readonly Point[]) => void;
  /** Begins a note on one; null where nothing can be written. */
  onNote: ((leaf: number, points: readonly Point[], words: string) => void) | null;
};

const verdicts: Readonly<Record<TypedOverRow["verdict"], string>> = {
  differs: "differs",
  noNumber: "no number",
  otherScale: "drawn to another scale",
  agrees: "agrees",
};

const measuredWords = (d: TypedOverRow) => `${Number(d.measured.toFixed(3))}${d.isAngle ? "°" : ""}`;

/** Round its words, as wide as they are near enough. */
function around({ at, height, words }: TypedOverRow): Point[] {
  const [w, h] = [Math.max(1, words.length) * height * 0.5, height * 1.1];
  return [
    { x: at.x - w, y: at.y - h },
    { x: at.x + w, y: at.y + h },
  ];
}

/** The dimensions whose words were typed over their value, when somebody asks: those that say something else than is measured come first. */
export function TypedDimensions({ draft, nameOf, onGo, onNote }: Props) {
  const [isAsked, setAsked] = useState(false);
  const [all, setAll] = useState(false);
  const { data, error, isFetching } = useQuery({
    queryKey: ["typed dimensions", draft],
    queryFn: () => api.get(`/drafts/${draft}/typed-dimensions`),
    enabled: isAsked,
    staleTime: Infinity,
    retry: false,
    meta: { saysItself: true },
  });
  if (!isAsked)
    return (
      <div className="border-t border-rule pt-2">
        <button type="button" className="min-h-6 underline" onClick={() => setAsked(true)}>
          Compare typed dimensions with the drawing
        </button>
      </div>
    );
  const rows = data?.dimensions ?? [];
  const wanting = rows.filter((d) => d.verdict !== "agrees");
  const shown = all ? rows : wanting;
  const sheets = new Set(rows.map((d) => d.position)).size;
  return (
    <section aria-label="Typed dimensions" className="border-t border-rule pt-2">
      <p role="status">
        {isFetching
          ? "Measuring …"
          : !data
            ? ""
            : !data.isKnown
              ? "Only a DXF holds dimensions as such; in this file they are lines and words. Measure between two points instead."
              : rows.length === 0
                ? "No dimension was typed over: each says what it measures."
                : `${rows.length} typed over; ${wanting.length === 0 ? "all agree with the drawing." : `${wanting.length} to be looked at.`}`}
      </p>
      {error && <Fault>{error.message}</Fault>}
      {rows.length > wanting.length && (
        <label className="flex items-center gap-1.5 text-sm">
          <input type="checkbox" className="accent-spruce" checked={all} onChange={(e) => setAll(e.target.checked)} />
          Those that agree, too
        </label>
      )}
      <ul className="mt-1 max-h-52 overflow-y-auto" tabIndex={shown.length > 4 ? 0 : undefined} aria-label="Found">
        {shown.map((d, i) => (
          <li key={i} className="flex items-center gap-2 border-t border-rule py-1">
            <button
              type="button"
              className="min-w-0 flex-1 text-left hover:underline"
              onClick={() => onGo(d.position, around(d))}
            >
              <b className="font-semibold break-words" dir="auto">
                {d.words}
              </b>{" "}
              measures {measuredWords(d)}
              <span className={`block text-sm ${d.verdict === "differs" ? "text-rust" : "text-soft"}`}>
                {verdicts[d.verdict]}
                {sheets > 1 && `, ${nameOf(d.position)}`}
              </span>
            </button>
            {onNote && (
              <Button
                onClick={() =>
                  onNote(
                    d.position,
                    around(d),
                    `“${d.words}” is typed over ${measuredWords(d)}, which the drawing measures here.`,
                  )
                }
                aria-label={`Note on ${d.words}`}
              >
                Note
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
