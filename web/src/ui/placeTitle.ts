let place = "";
let count = 0;

const show = () => {
  document.title = [count > 0 ? `(${count}) ` : "", place ? `${place} · ` : "", "Froe"].join("");
};

/** The window's title names the place one is in. */
export function namePlace(words: string) {
  place = words;
  show();
}

/** And how much waits, so that a window behind others tells it. */
export function countWaiting(waiting: number) {
  count = waiting;
  show();
}
