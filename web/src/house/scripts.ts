/** How the script of each place is fetched; the desk's comes with the house, because most days begin there. */
export const scripts = {
  bench: () => import("../bench/Bench"),
  register: () => import("../register/Register"),
  reading: () => import("../register/Reading"),
  notes: () => import("../notes/Notes"),
  send: () => import("../send/Send"),
  plans: () => import("../plans/Plans"),
  plan: () => import("../plans/Editor"),
  turnaround: () => import("../turnaround/Turnaround"),
  ledger: () => import("../ledger/Ledger"),
  office: () => import("../office/Office"),
  post: () => import("../post/Post"),
};
export type PlaceName = keyof typeof scripts;

/** Which place an address names; null for the desk, and where there is none. */
export function placeNamed(path: string): PlaceName | null {
  const [, first, second, third] = path.split("/");
  switch (first) {
    case "packages":
      return "bench";
    case "register":
      return third === "read" ? "reading" : "register";
    case "plans":
      return second ? "plan" : "plans";
    case "notes":
    case "send":
    case "turnaround":
    case "ledger":
    case "office":
    case "post":
      return first;
    default:
      return null;
  }
}
