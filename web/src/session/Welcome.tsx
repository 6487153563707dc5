import { useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { useLocation, useNavigate } from "react-router";
import { api, keepFormToken } from "../api/client";
import { Button, Fault } from "../ui/kit";
import { NewPassword } from "./NewPassword";

/** Where a link that is good once leads: its person chooses a password and is signed in. */
export function Welcome() {
  const client = useQueryClient();
  const navigate = useNavigate();
  // After the hash: what stands there is never sent to a server, nor kept in its log.
  const key = useLocation().hash.slice(1);
  const [password, setPassword] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    if (busy || password === null) return;
    setBusy(true);
    setFault(null);
    try {
      const session = await api.post("/session/invitation", { key, password });
      keepFormToken(session.formToken, session.person?.id ?? null);
      client.setQueryData(["session"], session);
      await navigate("/", { replace: true });
    } catch (e) {
      setFault((e as Error).message);
      setBusy(false);
    }
  };
  return (
    <main className="flex h-full items-center justify-center overflow-auto p-8">
      <form onSubmit={(e) => void submit(e)} className="w-96">
        <h1 className="text-2xl font-semibold">Welcome to Froe</h1>
        <p className="mb-6 text-soft">Choose the password you will sign in with. This link is good once.</p>
        <NewPassword onChange={setPassword} />
        <Fault>{fault}</Fault>
        <Button look="main" type="submit" disabled={busy || password === null} className="mt-2 w-full">
          {busy ? "Signing in …" : "Set the password and sign in"}
        </Button>
      </form>
    </main>
  );
}
