import { picturePath } from "../picturePath";

/** A model that this machine cannot draw: its picture, and why there is no more. */
export function NotDrawn(p: { draft: string; position: number; fault: string; onShown: (() => void) | undefined }) {
  return (
    <div className="absolute inset-0 grid place-items-center">
      <img
        alt="The model"
        onLoad={p.onShown}
        src={picturePath(p.draft, p.position)}
        className="max-h-full object-contain"
      />
      <p role="alert" className="absolute bottom-3 max-w-md border border-rust bg-raised px-3 py-1.5">
        {p.fault}
      </p>
    </div>
  );
}
