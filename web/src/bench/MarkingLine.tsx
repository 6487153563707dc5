import type { NoteRow } from "../api/types";
import type { MarkSync } from "../viewer/markup/sync";

type Props = { sync: MarkSync; placing: NoteRow | null; onStop: () => void };

/** What is to be known of the drawing: that a note gets another place, that the line is dead, that something was refused. */
export function MarkingLine({ sync, placing, onStop }: Props) {
  const look = "absolute top-3 left-1/2 z-20 max-w-[70%] -translate-x-1/2 border bg-raised px-3 py-1";
  if (sync.fault)
    return (
      <p role="alert" className={`${look} border-rust text-rust`}>
        {sync.fault}
      </p>
    );
  if (sync.state === "offline")
    return (
      <p role="status" className={`${look} border-ochre text-ochre`}>
        The server cannot be reached. What you drew is kept here and sent as soon as it can be.
      </p>
    );
  if (!placing) return null;
  return (
    <p role="status" className={`${look} border-spruce`}>
      Draw where {placing.kind} {placing.number} belongs as well: cloud (C) or arrow (A), on any item.{" "}
      <button type="button" className="font-semibold underline" onClick={onStop}>
        Stop
      </button>
    </p>
  );
}
