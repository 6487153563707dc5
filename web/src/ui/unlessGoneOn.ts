/**
 * For what closes over the page: it gives the keys back in a timer's time, which on a busy machine is late. Who has gone on by then, to
 * a field that opened meanwhile, is not called back from there.
 */
export const unlessGoneOn = (late: Event) => {
  if (!document.activeElement?.matches("body, [data-place-title]")) late.preventDefault();
};
