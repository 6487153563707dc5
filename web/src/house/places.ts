import { lazyPlace } from "./lazyPlace";
import { placeNamed, scripts } from "./scripts";

/** The places, each with its own script. */
export const places = {
  bench: lazyPlace("the bench", async () => (await scripts.bench()).Bench),
  register: lazyPlace("the register", async () => (await scripts.register()).Register),
  reading: lazyPlace("the sheet", async () => (await scripts.reading()).Reading),
  notes: lazyPlace("the notes", async () => (await scripts.notes()).Notes),
  send: lazyPlace("the form", async () => (await scripts.send()).Send),
  plans: lazyPlace("the plans", async () => (await scripts.plans()).Plans),
  plan: lazyPlace("the plan", async () => (await scripts.plan()).Editor),
  turnaround: lazyPlace("turnaround", async () => (await scripts.turnaround()).Turnaround),
  ledger: lazyPlace("the ledger", async () => (await scripts.ledger()).Ledger),
  office: lazyPlace("the office", async () => (await scripts.office()).Office),
  post: lazyPlace("the messages", async () => (await scripts.post()).Post),
};

/** The place of an address; null for the desk, and where there is none. */
export function placeAt(path: string) {
  const name = placeNamed(path);
  return name && places[name];
}
