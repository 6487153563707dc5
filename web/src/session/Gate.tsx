import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, type ReactNode } from "react";
import { useLocation } from "react-router";
import { keepFormToken } from "../api/client";
import { followChanges } from "../api/live";
import { meOf, type Me } from "../api/types";
import { Button, Empty } from "../ui/kit";
import { lazyPart } from "../ui/lazyPart";
import { keepClock } from "../ui/time";
import { Waiting } from "../ui/Waiting";
import { SignedIn } from "./me";
import { sessionQuery } from "./sessionQuery";

const SignIn = lazyPart(async () => (await import("./SignIn")).SignIn);
const SignInAgain = lazyPart(async () => (await import("./SignInAgain")).SignInAgain);
const Welcome = lazyPart(async () => (await import("./Welcome")).Welcome);

/**
 * Lets in who is signed in, and shows others where to. When a session ends, its person's page stays as it is under a dialog, with
 * everything typed, until they sign in again.
 */
export function Gate({ children }: { children: (me: Me, onOut: () => void) => ReactNode }) {
  const client = useQueryClient();
  const isWelcome = useLocation().pathname === "/welcome";
  const { data: session, error, refetch } = useQuery(sessionQuery);
  // Whose page this is.
  const [mine, setMine] = useState<Me | null>(null);
  const [leaving, setLeaving] = useState(false);
  const now = session?.person ? meOf(session.person, session.rights, session.dates) : null;
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
    const refused = () => void client.invalidateQueries({ refetchType: "active" }, { cancelRefetch: false });
    window.addEventListener("froe-signed-out", ended);
    window.addEventListener("froe-refused", refused);
    return () => {
      window.removeEventListener("froe-signed-out", ended);
      window.removeEventListener("froe-refused", refused);
    };
  }, [client]);
  useEffect(() => (person ? followChanges(client) : undefined), [person, client]);
  if (error && !session)
    return (
      <main className="flex h-full" role="alert">
        <Empty title="Froe cannot be reached">
          <p className="mb-4">{error.message}</p>
          <Button look="main" onClick={() => void refetch()}>
            Load again
          </Button>
        </Empty>
      </main>
    );
  if (!session)
    return (
      <main className="flex h-full">
        <Waiting>Opening Froe …</Waiting>
      </main>
    );
  const me = leaving ? null : (now ?? mine);
  if (me) keepClock(me.timeZone, me.dates);
  if (isWelcome) return <Welcome />;
  if (!me) return <SignIn demo={session.demo ?? null} isEmpty={session.isEmpty} />;
  return (
    <SignedIn.Provider value={me}>
      {children(me, () => setLeaving(true))}
      {!now && (
        <div className="fixed inset-x-0 top-0 z-[60] bg-raised">
          <SignInAgain person={me} onOther={() => setLeaving(true)} />
        </div>
      )}
    </SignedIn.Provider>
  );
}
