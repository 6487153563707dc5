import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { NavLink } from "react-router";
import { api } from "../api/client";
import type { Me } from "../api/types";
import { lazyPart } from "../ui/lazyPart";
import { countWaiting } from "../ui/placeTitle";
import { accountLook } from "./looks";
import { placesOf, type PlaceOffered } from "./placeList";

const AccountMenu = lazyPart(async () => (await import("./AccountMenu")).AccountMenu);

/** The places at the left, what waits in them, and one's own account. */
export function Rail({ person, onOut }: { person: Me; onOut: () => void }) {
  const { data: counts } = useQuery({ queryKey: ["counts"], queryFn: () => api.get("/counts") });
  const waiting = counts ? counts.desk + counts.unread : 0;
  useEffect(() => countWaiting(waiting), [waiting]);
  return (
    <nav
      aria-label="Places"
      className="flex w-[64px] shrink-0 flex-col items-center gap-1 overflow-x-hidden overflow-y-auto border-r border-rule py-3 max-[700px]:w-full max-[700px]:flex-row max-[700px]:overflow-x-auto max-[700px]:border-t max-[700px]:border-r-0 max-[700px]:px-2 max-[700px]:py-1"
    >
      <svg
        viewBox="0 0 24 24"
        width="26"
        height="26"
        className="mb-3 shrink-0 max-[700px]:hidden"
        role="img"
        aria-label="Froe"
      >
        <path d="M1 1h6v22H1z" className="fill-ink" />
        <path d="M7 1h16l-3 7H7z" className="fill-spruce" />
      </svg>
      {placesOf(person).map((p) => (
        <Place key={p.to} {...p} count={p.to === "/" ? counts?.desk : p.to === "/post" ? counts?.unread : 0} />
      ))}
      <div className="flex-1" />
      <AccountButton person={person} onOut={onOut} />
    </nav>
  );
}

function Place({ to, words, icon: Icon, count = 0, fetch }: PlaceOffered & { count?: number }) {
  return (
    <NavLink
      to={to}
      end={to === "/"}
      onPointerEnter={fetch}
      onFocus={fetch}
      className={({ isActive }) =>
        `relative flex w-[58px] shrink-0 flex-col items-center rounded-[5px] py-1.5 font-narrow text-xs font-medium ${isActive ? "bg-picked font-semibold" : "text-soft hover:bg-picked"}`
      }
    >
      <Icon size={20} strokeWidth={1.6} />
      {words}
      {count > 0 && (
        <span
          title={`${count} ${to === "/" ? "wait for you" : "not read"}`}
          className="absolute top-0.5 right-1 min-w-4 rounded-full bg-rust px-1 text-center text-[10px] leading-4 font-semibold text-on"
        >
          {count > 99 ? "99+" : count}
        </span>
      )}
    </NavLink>
  );
}

/** One's own account: a plain button until it is pressed, since the menu is seldom needed and not small. */
function AccountButton({ person, onOut }: { person: Me; onOut: () => void }) {
  const [isAsked, setAsked] = useState(false);
  const plain = (
    <button
      type="button"
      aria-label={`${person.name}, your account`}
      aria-haspopup="menu"
      className={accountLook}
      onPointerEnter={AccountMenu.fetchAhead}
      onFocus={AccountMenu.fetchAhead}
      onClick={() => setAsked(true)}
    >
      {person.initials}
    </button>
  );
  return isAsked ? (
    <AccountMenu person={person} onOut={onOut} coming={plain} onFailed={() => setAsked(false)} />
  ) : (
    plain
  );
}
