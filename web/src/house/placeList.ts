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

/** The places that a person may go to. */
export function placesOf(me: Me): readonly PlaceOffered[] {
  const isOfOffice = !me.isGuest;
  const all: [may: boolean, place: PlaceOffered][] = [
    [true, { to: "/", words: "Desk", icon: LampDesk }],
    [true, { to: "/register", words: "Register", icon: BookOpenText, fetch: places.register.fetchAhead }],
    [isOfOffice, { to: "/notes", words: "Notes", icon: Cloud, fetch: places.notes.fetchAhead }],
    [me.canSend, { to: "/send", words: "Send", icon: Send, fetch: places.send.fetchAhead }],
    [isOfOffice, { to: "/plans", words: "Plans", icon: Waypoints, fetch: places.plans.fetchAhead }],
    [isOfOffice, { to: "/turnaround", words: "Turnaround", icon: Milestone, fetch: places.turnaround.fetchAhead }],
    [isOfOffice, { to: "/ledger", words: "Ledger", icon: ScrollText, fetch: places.ledger.fetchAhead }],
    [me.canAdminister, { to: "/office", words: "Office", icon: Users, fetch: places.office.fetchAhead }],
    [true, { to: "/post", words: "Post", icon: Inbox, fetch: places.post.fetchAhead }],
  ];
  return all.filter(([may]) => may).map(([, place]) => place);
}
