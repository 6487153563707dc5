/**
 * For what closes over the page: it gives the keys back in a timer's time, which on a busy machine is late. Who has gone on by then, to
 * a field that opened meanwhile, is not called back from there.
 */
export const unlessGoneOn = (late: Event) => {
  if (!isStillIn(null)) late.preventDefault();
};

/** Whether the keys are nowhere or still in a part of the page: who has gone on while an answer to it was on its way is not called back. */
export function isStillIn(part: Element | null): boolean {
  const at = document.activeElement;
  return !at || at.matches("body, [data-place-title]") || part?.contains(at) === true;
}
