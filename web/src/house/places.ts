import { lazyPlace } from "./lazyPlace";

/** The places, each with its own script; the desk alone comes with the house, because most days begin there. */
export const places = {
  bench: lazyPlace("the bench", async () => (await import("../bench/Bench")).Bench),
  register: lazyPlace("the register", async () => (await import("../register/Register")).Register),
  reading: lazyPlace("the sheet", async () => (await import("../register/Reading")).Reading),
  notes: lazyPlace("the notes", async () => (await import("../notes/Notes")).Notes),
  send: lazyPlace("the form", async () => (await import("../send/Send")).Send),
  plans: lazyPlace("the plans", async () => (await import("../plans/Plans")).Plans),
  plan: lazyPlace("the plan", async () => (await import("../plans/Editor")).Editor),
  turnaround: lazyPlace("turnaround", async () => (await import("../turnaround/Turnaround")).Turnaround),
  ledger: lazyPlace("the ledger", async () => (await import("../ledger/Ledger")).Ledger),
  office: lazyPlace("the office", async () => (await import("../office/Office")).Office),
  post: lazyPlace("the messages", async () => (await import("../post/Post")).Post),
};

/** The place of an address; null for the desk, and where there is none. */
export function placeAt(path: string) {
  const [, first, second, third] = path.split("/");
  switch (first) {
    case "packages":
      return places.bench;
    case "register":
      return third === "read" ? places.reading : places.register;
    case "plans":
      return second ? places.plan : places.plans;
    case "notes":
    case "send":
    case "turnaround":
    case "ledger":
    case "office":
    case "post":
      return places[first];
    default:
      return null;
  }
}
