import { QueryClientProvider } from "@tanstack/react-query";
import { BrowserRouter, Link, Navigate, Route, Routes, useLocation } from "react-router";
import type { Me } from "./api/types";
import { Desk } from "./desk/Desk";
import { Announcer } from "./house/Announcer";
import { Commands } from "./house/Commands";
import { closedTo } from "./house/placeList";
import { places } from "./house/places";
import { queries } from "./house/queries";
import { Rail } from "./house/Rail";
import { SkipLinks } from "./house/SkipLinks";
import { Notices } from "./post/Notices";
import { AtRisk } from "./kept/AtRisk";
import { Gate } from "./session/Gate";
import { Boundary } from "./ui/Boundary";
import { Empty } from "./ui/kit";
import { PlaceBar } from "./ui/PlaceBar";
import { Unloaded } from "./ui/Unloaded";

/** Lets go of what a place had loaded that failed. */
const forget = () => queries.removeQueries({ type: "inactive" });

export function App() {
  return (
    <QueryClientProvider client={queries}>
      {/* What is ticked and chosen in lists stands in the address: there it must be at once, not when there is time. */}
      <BrowserRouter useTransitions={false}>
        {/* What fails outside of a place would leave nothing of the page. */}
        <Boundary onFailed={forget}>
          <Gate>{(me, onOut) => <House key={me.id} me={me} onOut={onOut} />}</Gate>
        </Boundary>
      </BrowserRouter>
    </QueryClientProvider>
  );
}

/** The rail and the place one is in. */
function House({ me, onOut }: { me: Me; onOut: () => void }) {
  const { pathname } = useLocation();
  const place = pathname.split("/")[1];
  const closed = closedTo(me, pathname);
  return (
    <div className="flex h-full max-[700px]:flex-col-reverse">
      <SkipLinks />
      <Rail person={me} onOut={onOut} />
      <div className="flex min-h-0 min-w-0 flex-1 flex-col">
        <Unloaded />
        <Boundary key={place} onFailed={forget}>
          {closed ? (
            <ClosedPlace {...closed} />
          ) : (
            <Routes>
              <Route path="/" element={<Desk onLikely={places.bench.fetchAhead} />} />
              <Route path="/register" element={<places.register />} />
              <Route path="/register/:id" element={<places.register />} />
              <Route path="/register/:id/read" element={<places.reading />} />
              <Route path="/office/*" element={<places.office />} />
              <Route path="/notes" element={<places.notes />} />
              <Route path="/send" element={<places.send />} />
              <Route path="/packages/:id" element={<places.bench />} />
              <Route path="/plans" element={<places.plans />} />
              <Route path="/plans/:id" element={<places.plan />} />
              <Route path="/turnaround" element={<places.turnaround />} />
              <Route path="/ledger" element={<places.ledger />} />
              <Route path="/post" element={<places.post />} />
              {/* What these places were called before: links in old messages and bookmarks lead on. */}
              <Route path="/requests" element={<Renamed to="/notes" />} />
              <Route path="/monitor" element={<Renamed to="/turnaround" />} />
              <Route path="*" element={<p className="m-auto">There is no such place. Choose one at the left.</p>} />
            </Routes>
          )}
        </Boundary>
      </div>
      <AtRisk />
      <Notices />
      <Commands />
      <Announcer />
    </div>
  );
}

/** A place that somebody was led to, by a link or from memory, and that is not theirs. */
function ClosedPlace({ words, otherwise }: { words: string; otherwise: string }) {
  return (
    <>
      <PlaceBar title={words} />
      <main className="flex flex-1">
        <Empty title="This place is not open to you">
          {otherwise}{" "}
          <Link className="underline" to="/">
            Go to the desk
          </Link>
        </Empty>
      </main>
    </>
  );
}

function Renamed({ to }: { to: string }) {
  return <Navigate to={to + useLocation().search} replace />;
}
