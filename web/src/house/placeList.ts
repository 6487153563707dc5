import { BookOpenText, Cloud, Inbox, LampDesk, Milestone, ScrollText, Send, Users, Waypoints } from "lucide-react";
import type { ComponentType } from "react";
import type { Me } from "../api/types";
import { places } from "./places";

/** A place as the rail and the list of commands offer it. */
export type PlaceOffered = {
  to: string;
  words: string;
  icon: ComponentType<{ size?: number; strokeWidth?: number }>;
  /** Fetches its script ahead. */
  fetch?: () => void;
};

const OF_OFFICE =
  "Guests see their desk, the register as far as it is theirs, the packages they take part in, and their post.";

/** Every place, with whether a person may go there, and whom or what they ask otherwise. */
const all = (me: Me): readonly [may: boolean, place: PlaceOffered, otherwise?: string][] => [
  [true, { to: "/", words: "Desk", icon: LampDesk }],
  [true, { to: "/register", words: "Register", icon: BookOpenText, fetch: places.register.fetchAhead }],
  [!me.isGuest, { to: "/notes", words: "Notes", icon: Cloud, fetch: places.notes.fetchAhead }],
  [
    me.canSend,
    { to: "/send", words: "Send", icon: Send, fetch: places.send.fetchAhead },
    "Ask an administrator for the right to send packages.",
  ],
  [!me.isGuest, { to: "/plans", words: "Plans", icon: Waypoints, fetch: places.plans.fetchAhead }],
  [!me.isGuest, { to: "/turnaround", words: "Turnaround", icon: Milestone, fetch: places.turnaround.fetchAhead }],
  [!me.isGuest, { to: "/ledger", words: "Ledger", icon: ScrollText, fetch: places.ledger.fetchAhead }],
  [
    me.canAdminister,
    { to: "/office", words: "Office", icon: Users, fetch: places.office.fetchAhead },
    "It is for administrators. Ask one of them to change people, groups or folders.",
  ],
  [true, { to: "/post", words: "Post", icon: Inbox, fetch: places.post.fetchAhead }],
];

/** The places that a person may go to. */
export const placesOf = (me: Me): readonly PlaceOffered[] => all(me).flatMap(([may, place]) => (may ? [place] : []));

/** Where an address leads to a place that a person may not go to: what it is called, and whom they ask. */
export function closedTo(me: Me, path: string): { words: string; otherwise: string } | null {
  const found = all(me).find(([, place]) => place.to === `/${path.split("/")[1]}`);
  return !found || found[0] ? null : { words: found[1].words, otherwise: (!me.isGuest && found[2]) || OF_OFFICE };
}
