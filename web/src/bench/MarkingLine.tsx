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
  /** What was begun and waits out of sight: what is said of it, and of going on with it. */
  folded: { says: string; goOn: string; onOpen: () => void; onDiscard: () => void } | null;
};

/** What is to be known of the drawing: that a note gets another place, that the line is dead, that something was refused. */
export function MarkingLine({ sync, placing, onStop, counted, says, folded }: Props) {
  const look = "absolute top-3 left-1/2 z-20 w-max max-w-[70%] -translate-x-1/2 border bg-raised px-3 py-1";
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
      {folded.says}{" "}
      <button type="button" className={button} onClick={folded.onOpen}>
        {folded.goOn}
      </button>{" "}
      <button type="button" className={`${button} ml-2 font-normal`} onClick={folded.onDiscard}>
        Discard
      </button>
    </p>
  );
}
