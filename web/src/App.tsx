import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from "@tanstack/react-query";
import {
  BookOpenText,
  CalendarOff,
  Cloud,
  Inbox,
  KeyRound,
  LampDesk,
  LogOut,
  Milestone,
  ScrollText,
  Send as SendIcon,
  Users,
  Waypoints,
} from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useEffect, useState, type ReactNode } from "react";
import { BrowserRouter, NavLink, Route, Routes, useLocation } from "react-router";
import { api, Refusal, keepFormToken } from "./api/client";
import { followChanges } from "./api/live";
import { meOf, type Me } from "./api/types";
import { Bench } from "./bench/Bench";
import { Absences } from "./desk/Absences";
import { Desk } from "./desk/Desk";
import { Editor } from "./plans/Editor";
import { Ledger } from "./ledger/Ledger";
import { Plans } from "./plans/Plans";
import { Monitor } from "./monitor/Monitor";
import { Notices } from "./post/Notices";
import { Post } from "./post/Post";
import { Office } from "./office/Office";
import { Reading } from "./register/Reading";
import { Register } from "./register/Register";
import { Requests } from "./requests/Requests";
import { Send } from "./send/Send";
import { SignedIn } from "./session/me";
import { SignIn } from "./signin/SignIn";
import { SignInAgain } from "./signin/SignInAgain";
import { Account } from "./signin/Account";
import { Welcome } from "./signin/Welcome";
import { Boundary } from "./ui/Boundary";
import { Unloaded } from "./ui/Unloaded";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      // A browser that believes itself offline may well reach a server in the same house.
      networkMode: "always",
      retry: (count, error) => count < 2 && !(error instanceof Refusal && error.status >= 400 && error.status < 500),
    },
  },
});

export function App() {
  return (
    <QueryClientProvider client={queries}>
      {/* What is ticked and chosen in lists stands in the address: there it must be at once, not when there is time. */}
      <BrowserRouter useTransitions={false}>
        <Gate />
      </BrowserRouter>
    </QueryClientProvider>
  );
}

function Gate() {
  const client = useQueryClient();
  const place = useLocation().pathname.split("/")[1];
  const { data: session, error } = useQuery({
    queryKey: ["session"],
    queryFn: () => api.get("/session"),
    staleTime: Infinity,
  });
  // Whose page this is: when their session ends, it stays as it is with everything typed, until they sign in again.
  const [mine, setMine] = useState<Me | null>(null);
  const [leaving, setLeaving] = useState(false);
  const now = session?.person ? meOf(session.person, session.rights) : null;
  if (session) keepFormToken(session.formToken, (now ?? mine)?.id ?? null);
  if (leaving && session && !now) {
    setMine(null);
    setLeaving(false);
  } else if (now && !leaving && JSON.stringify(now) !== JSON.stringify(mine)) {
    // Somebody else's page must not be theirs to read.
    if (mine && mine.id !== now.id) client.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
    setMine(now);
  }
  const person = now?.id;
  useEffect(() => {
    const ended = () => void client.invalidateQueries({ queryKey: ["session"] });
    window.addEventListener("froe-signed-out", ended);
    return () => window.removeEventListener("froe-signed-out", ended);
  }, [client]);
  useEffect(() => (person ? followChanges(client) : undefined), [person, client]);
  if (error && !session) return <p className="m-auto p-16 text-center">{error.message}</p>;
  if (!session) return null;
  const me = leaving ? null : (now ?? mine);
  if (place === "welcome") return <Welcome />;
  if (!me) return <SignIn demo={session.demo ?? null} isEmpty={session.isEmpty} />;
  return (
    <SignedIn.Provider value={me}>
      <div key={me.id} className="flex h-full">
        <Rail person={me} onOut={() => setLeaving(true)} />
        <div className="flex min-w-0 flex-1 flex-col">
          <Unloaded />
          <Boundary key={place} onFailed={() => client.removeQueries({ type: "inactive" })}>
            <Routes>
              <Route path="/" element={<Desk />} />
              <Route path="/register" element={<Register />} />
              <Route path="/register/:id" element={<Register />} />
              <Route path="/register/:id/read" element={<Reading />} />
              <Route path="/office/*" element={<Office />} />
              <Route path="/requests" element={<Requests />} />
              <Route path="/send" element={<Send />} />
              <Route path="/packages/:id" element={<Bench />} />
              <Route path="/plans" element={<Plans />} />
              <Route path="/plans/:id" element={<Editor />} />
              <Route path="/monitor" element={<Monitor />} />
              <Route path="/ledger" element={<Ledger />} />
              <Route path="/post" element={<Post />} />
              <Route path="*" element={<p className="m-auto">There is no such place. Choose one at the left.</p>} />
            </Routes>
          </Boundary>
        </div>
        <Notices />
      </div>
      {!now && <SignInAgain person={me} onOther={() => setLeaving(true)} />}
    </SignedIn.Provider>
  );
}

function Rail({ person, onOut }: { person: Me; onOut: () => void }) {
  const [absences, setAbsences] = useState(false);
  const [account, setAccount] = useState(false);
  const client = useQueryClient();
  const { data: desk } = useQuery({ queryKey: ["desk"], queryFn: () => api.get("/desk") });
  const { data: unread } = useQuery({
    queryKey: ["messages", "unread"],
    queryFn: () => api.get("/messages/unread"),
  });
  const out = async () => {
    await api.delete("/session");
    onOut();
    await client.invalidateQueries({ queryKey: ["session"] });
    // The next person to sign in here must not see what this one could.
    client.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
  };
  return (
    <nav aria-label="Places" className="flex w-[60px] shrink-0 flex-col items-center gap-1 border-r border-rule py-3">
      <svg viewBox="0 0 24 24" width="26" height="26" className="mb-3" role="img" aria-label="Froe">
        <path d="M1 1h6v22H1z" className="fill-ink" />
        <path d="M7 1h16l-3 7H7z" className="fill-spruce" />
      </svg>
      <Place
        to="/"
        words="Desk"
        count={desk ? desk.toSign.length + desk.toAnswer.length + desk.toAdvise.length : 0}
        icon={<LampDesk size={20} strokeWidth={1.6} />}
      />
      <Place to="/register" words="Register" icon={<BookOpenText size={20} strokeWidth={1.6} />} />
      {!person.isGuest && <Place to="/requests" words="Requests" icon={<Cloud size={20} strokeWidth={1.6} />} />}
      {person.canSend && <Place to="/send" words="Send" icon={<SendIcon size={20} strokeWidth={1.6} />} />}
      {!person.isGuest && <Place to="/plans" words="Plans" icon={<Waypoints size={20} strokeWidth={1.6} />} />}
      {!person.isGuest && <Place to="/monitor" words="Monitor" icon={<Milestone size={20} strokeWidth={1.6} />} />}
      {!person.isGuest && <Place to="/ledger" words="Ledger" icon={<ScrollText size={20} strokeWidth={1.6} />} />}
      {person.canAdminister && <Place to="/office" words="Office" icon={<Users size={20} strokeWidth={1.6} />} />}
      <Place to="/post" words="Post" count={unread ?? 0} icon={<Inbox size={20} strokeWidth={1.6} />} />
      <div className="flex-1" />
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label={`${person.name}, your account`}
          className="grid h-8 w-8 place-items-center rounded-full border border-ink text-sm font-semibold hover:bg-picked"
        >
          {person.initials}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            side="right"
            align="end"
            sideOffset={8}
            className="z-50 min-w-52 rounded-md border border-rule bg-raised p-1 shadow-lg"
          >
            <div className="px-3 py-2">
              <div className="font-semibold">{person.name}</div>
              <div className="text-soft">{person.title}</div>
            </div>
            <DropdownMenu.Item
              onSelect={() => setAbsences(true)}
              className="flex cursor-pointer items-center gap-2 rounded px-3 py-2 data-[highlighted]:bg-picked"
            >
              <CalendarOff size={15} /> Absences and deputies
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={() => setAccount(true)}
              className="flex cursor-pointer items-center gap-2 rounded px-3 py-2 data-[highlighted]:bg-picked"
            >
              <KeyRound size={15} /> Password and sessions
            </DropdownMenu.Item>
            <DropdownMenu.Item
              onSelect={() => void out()}
              className="flex cursor-pointer items-center gap-2 rounded px-3 py-2 data-[highlighted]:bg-picked"
            >
              <LogOut size={15} /> Sign out
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <Absences open={absences} onClose={() => setAbsences(false)} />
      <Account open={account} onClose={() => setAccount(false)} />
    </nav>
  );
}

function Place({ to, words, icon, count = 0 }: { to: string; words: string; icon: ReactNode; count?: number }) {
  return (
    <NavLink
      to={to}
      end={to === "/"}
      className={({ isActive }) =>
        `relative flex w-[52px] flex-col items-center rounded-[5px] py-1.5 font-narrow text-xs font-medium ${isActive ? "bg-picked font-semibold" : "text-soft hover:bg-picked"}`
      }
    >
      {icon}
      {words}
      {count > 0 && (
        <span className="absolute top-0.5 right-1 min-w-4 rounded-full bg-rust px-1 text-center text-[10px] leading-4 font-semibold text-white">
          {count > 99 ? "99+" : count}
        </span>
      )}
    </NavLink>
  );
}
