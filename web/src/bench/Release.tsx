import type { PackageView } from "../api/types";

/** What a released package says: whether it was signed, and what was never answered. */
export function Release({ p }: { p: PackageView }) {
  const unanswered = p.notes.filter((n) => n.kind === "question" && n.standing === "open");
  return (
    <p className="border-t border-rule p-4">
      {p.unsigned ? (
        <>
          <b className="font-semibold">Released without signatures{p.unsigned.by && ` by ${p.unsigned.by}`}.</b>{" "}
          {p.unsigned.reason} Exactly these bytes are locked.
        </>
      ) : (
        <>
          <b className="font-semibold">Released.</b> Every signature is in; what was signed is locked, byte for byte.
        </>
      )}
      {unanswered.length > 0 && (
        <span className="mt-1 block text-ochre">
          Never answered: {unanswered.length === 1 ? "question" : "questions"}{" "}
          {unanswered.map((n) => n.number).join(", ")}.
        </span>
      )}
    </p>
  );
}
