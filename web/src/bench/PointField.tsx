import { useState, useSyncExternalStore } from "react";
import type { Point } from "../api/types";
import type { InHand } from "../viewer/tools/inHand";
import { typedPoint, type TypedFrom } from "../viewer/tools/typedPoint";

type Props = {
  /** From where a point is typed now: another after each that is set. */
  fromNow: () => TypedFrom;
  inHand: InHand;
  /** Sets the point; gives whether the tool wants another. */
  onPoint: (at: Point) => boolean;
  onDone: () => void;
};

/** A point by numbers, for whoever wants it to the last decimal. */
export function PointField({ fromNow, inHand, onPoint, onDone }: Props) {
  useSyncExternalStore(inHand.subscribe, inHand.stepNow);
  const from = fromNow();
  const [typed, setTyped] = useState("");
  const [isWrong, setWrong] = useState(false);
  return (
    <form
      data-on-sheet
      className="absolute bottom-12 left-1/2 z-30 w-80 -translate-x-1/2 rounded-md border border-rule bg-raised p-2 shadow-lg"
      onSubmit={(e) => {
        e.preventDefault();
        const at = typedPoint(typed, from);
        setWrong(at === null);
        if (!at) return;
        setTyped("");
        if (!onPoint(at)) onDone();
      }}
      onKeyDown={(e) => {
        if (e.key === "Escape") onDone();
        e.stopPropagation();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="shrink-0">Point</span>
        <input
          className="field font-mono"
          autoFocus
          autoComplete="off"
          maxLength={60}
          aria-invalid={isWrong}
          aria-describedby="point-hint"
          placeholder={from.factor === null ? "x y, in the sheet’s units" : "x y, in mm"}
          value={typed}
          onChange={(e) => {
            setTyped(e.target.value);
            setWrong(false);
          }}
        />
      </label>
      <p
        id="point-hint"
        role={isWrong ? "alert" : undefined}
        className={`mt-1 text-sm ${isWrong ? "text-rust" : "text-soft"}`}
      >
        {from.last
          ? "12.5 40 from the origin, @10 -5 from the last point, 25<30 a length at an angle, 25 a length towards the cross."
          : "12.5 40: to the right of the origin, and above it."}
      </p>
    </form>
  );
}
