import { NavLink, Navigate, Route, Routes } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { Calendars } from "./Calendars";
import { Folders } from "./Folders";
import { Groups } from "./Groups";
import { Security } from "./Security";
import { Staff } from "./Staff";
import { Wordings } from "./Wordings";

const places = [
  ["people", "People"],
  ["groups", "Groups and rights"],
  ["calendars", "Calendars"],
  ["folders", "Folders and standings"],
  ["wordings", "Wordings"],
  ["security", "Security"],
] as const;

/** Where administrators keep people, groups with their rights, calendars, and the register's folders. */
export function Office() {
  return (
    <>
      <PlaceBar title="Office">
        <nav aria-label="Office" className="flex border border-ink">
          {places.map(([to, words]) => (
            <NavLink
              key={to}
              to={`/office/${to}`}
              className={({ isActive }) =>
                `border-l border-ink px-3 py-1 first:border-l-0 ${isActive ? "bg-ink text-raised" : "hover:bg-picked"}`
              }
            >
              {words}
            </NavLink>
          ))}
        </nav>
      </PlaceBar>
      <main className="flex min-h-0 flex-1 max-[700px]:flex-col">
        <Routes>
          <Route index element={<Navigate to="people" replace />} />
          <Route path="people" element={<Staff />} />
          <Route path="groups" element={<Groups />} />
          <Route path="calendars" element={<Calendars />} />
          <Route path="folders" element={<Folders />} />
          <Route path="wordings" element={<Wordings />} />
          <Route path="security" element={<Security />} />
        </Routes>
      </main>
    </>
  );
}
