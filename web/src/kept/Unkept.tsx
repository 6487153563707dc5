/** Says that a form holds changes that are not with the server yet, and lets them go. */
export function Unkept({ isKept, discard }: { isKept: boolean; discard: () => void }) {
  if (!isKept) return null;
  return (
    <p role="status" className="mb-3 border-l-[3px] border-ochre pl-2.5">
      What you changed here is not kept yet.{" "}
      <button type="button" className="min-h-6 underline" onClick={discard}>
        Discard it
      </button>
    </p>
  );
}
