/** Says that a form holds changes that are not with the server yet, and lets them go. */
export function Unkept({
  isKept,
  isOvertaken,
  discard,
}: {
  isKept: boolean;
  isOvertaken?: boolean;
  discard: () => void;
}) {
  if (!isKept) return null;
  return (
    <p role="status" className="mb-3 border-l-[3px] border-ochre pl-2.5">
      {isOvertaken
        ? "Somebody else changed this since you began. What you changed lies on top of that, and is not kept yet."
        : "What you changed here is not kept yet."}{" "}
      <button type="button" className="min-h-6 underline" onClick={discard}>
        Discard it
      </button>
    </p>
  );
}
