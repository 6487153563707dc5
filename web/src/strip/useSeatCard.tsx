import { useEffect, useRef, useState, type HTMLAttributes, type ReactNode } from "react";
import type { Person, Seat, Step } from "../api/types";
import { lazyPart } from "../ui/lazyPart";
import type { SeatState, StripState } from "./state";

// What floats comes when somebody comes near a cell: most who look at a strip read it as it is.
const SeatCard = lazyPart(async () => (await import("./SeatCard")).SeatCard);

/** How long one rests on a cell until its card shows, and how long the card stays behind, in milliseconds. */
const OPENS = 250;
const CLOSES = 80;

/** What a cell of the strip does when one comes near it with the pointer or the focus. */
export type Near = (step: Step, seat: Seat, filled: SeatState) => HTMLAttributes<HTMLElement>;

/** One card for a whole strip, which says all about the cell one is at. */
export function useSeatCard(state: StripState, people: ReadonlyMap<string, Person>): { near: Near; card: ReactNode } {
  const [shown, setShown] = useState<{ step: Step; seat: Seat; filled: SeatState; at: HTMLElement } | null>(null);
  const timer = useRef(0);
  const later = (ms: number, act: () => void) => {
    clearTimeout(timer.current);
    timer.current = window.setTimeout(act, ms);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  const close = () => later(CLOSES, () => setShown(null));
  const near: Near = (step, seat, filled) => {
    const open = (at: HTMLElement) => later(OPENS, () => setShown({ step, seat, filled, at }));
    return {
      onPointerEnter: (e) => e.pointerType !== "touch" && open(e.currentTarget),
      onPointerLeave: close,
      onFocus: (e) => open(e.currentTarget),
      onBlur: close,
      onClick: (e) => open(e.currentTarget),
    };
  };
  const card = shown && (
    <SeatCard
      {...shown}
      state={state}
      people={people}
      onStay={() => clearTimeout(timer.current)}
      onLeave={close}
      onClose={() => setShown(null)}
      onFailed={() => setShown(null)}
    />
  );
  return { near, card };
}
