import type { NoteRow } from "../api/types";
import type { MarkSync } from "../viewer/markup/sync";

type Props = {
  sync: MarkSync;
  placing: NoteRow | null;
  onStop: () => void;
  /** How many are counted on the sheet, while somebody counts. */
  counted: number | null;
  /** What the last key could not do. */
  says: string | null;
  /** A note that was begun and waits out of sight. */
  folded: { onOpen: () => void; onDiscard: () => void; isOfLastDraft: boolean } | null;
};

/** What is to be known of the drawing: that a note gets another place, that the line is dead, that something was refused. */
export function MarkingLine({ sync, placing, onStop, counted, says, folded }: Props) {
  const look = "absolute top-3 left-1/2 z-20 max-w-[70%] -translate-x-1/2 border bg-raised px-3 py-1";
  const button = "min-h-6 font-semibold underline";
  if (sync.fault)
    return (
      <p role="alert" className={`${look} border-rust text-rust`}>
        {sync.fault}
      </p>
    );
  if (says)
    return (
      <p role="alert" className={`${look} border-ochre text-ochre`}>
        {says}
      </p>
    );
  if (sync.state === "offline")
    return (
      <p role="status" className={`${look} border-ochre text-ochre`}>
        The server cannot be reached. What you drew is kept by this browser and sent as soon as it can be.
      </p>
    );
  if (placing)
    return (
      <p role="status" className={`${look} border-spruce`}>
        Draw where {placing.kind} {placing.number} belongs as well: cloud (C) or arrow (A), on any item.{" "}
        <button type="button" className={button} onClick={onStop}>
          Stop
        </button>
      </p>
    );
  if (counted !== null)
    return (
      <p role="status" className={`${look} border-spruce`}>
        {counted === 0 ? "Press each thing to be counted; Escape ends it." : `${counted} counted on this sheet`}
      </p>
    );
  if (!folded) return null;
  return (
    <p role="status" className={`${look} border-spruce`}>
      {folded.isOfLastDraft
        ? "A note that you began on the last draft is kept; this is the next."
        : "A note that you began is kept here."}{" "}
      <button type="button" className={button} onClick={folded.onOpen}>
        {folded.isOfLastDraft ? "Write it on this draft" : "Go on writing"}
      </button>{" "}
      <button type="button" className={`${button} ml-2 font-normal`} onClick={folded.onDiscard}>
        Discard it
      </button>
    </p>
  );
}
