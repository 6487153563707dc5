import { useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { api, keepFormToken } from "../api/client";
import type { Session } from "../api/types";
import { Button, Fault, Labelled } from "../ui/kit";

export function SignIn({ demo, isEmpty }: { demo: Session["demo"]; isEmpty: boolean }) {
  const client = useQueryClient();
  const [login, setLogin] = useState("");
  const [password, setPassword] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    setBusy(true);
    setFault(null);
    try {
      const session = await api.post("/session", { login, password });
      keepFormToken(session.formToken, session.person?.id ?? null);
      client.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
      client.setQueryData(["session"], session);
    } catch (e) {
      setFault((e as Error).message);
      setBusy(false);
    }
  };
  return (
    <main className="flex h-full items-center justify-center gap-16 overflow-auto p-8">
      <form onSubmit={(e) => void submit(e)} className="w-80">
        <svg viewBox="0 0 24 24" width="40" height="40" aria-hidden>
          <path d="M1 1h6v22H1z" className="fill-ink" />
          <path d="M7 1h16l-3 7H7z" className="fill-spruce" />
        </svg>
        <h1 className="mt-4 text-2xl font-semibold">Froe</h1>
        <p className="mb-6 text-soft">Design review: look, mark, sign, release exactly what was signed.</p>
        {isEmpty && (
          <p role="status" className="mb-6 border-l-[3px] border-ochre bg-raised px-3 py-2">
            Nobody is here yet. Whoever keeps this server makes the first administrator there, with{" "}
            <code className="font-mono">./froe admin LOGIN</code>, and opens the link it prints.
          </p>
        )}
        <Labelled label="Name to sign in with">
          <input
            className="field"
            autoComplete="username"
            autoFocus
            required
            value={login}
            onChange={(e) => setLogin(e.target.value)}
          />
        </Labelled>
        <Labelled label="Password">
          <input
            className="field"
            type="password"
            autoComplete="current-password"
            required
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        </Labelled>
        <Fault>{fault}</Fault>
        <Button look="main" type="submit" disabled={busy} className="mt-2 w-full">
          {busy ? "Signing in …" : "Sign in"}
        </Button>
      </form>
      {demo && (
        <section className="w-[360px]" aria-label="People of the demo">
          <h2 className="label mb-2">Demo · choose who to be</h2>
          <ul className="border border-rule bg-raised">
            {demo.people.map((p) => (
              <li key={p.id} className="border-t border-rule first:border-t-0">
                <button
                  type="button"
                  className={`flex w-full items-center gap-3 px-3 py-1.5 text-left hover:bg-picked ${login === p.login ? "bg-picked" : ""}`}
                  onClick={() => {
                    setLogin(p.login);
                    setPassword(demo.password);
                    setFault(null);
                  }}
                >
                  <span className="grid h-7 w-7 shrink-0 place-items-center rounded-full border border-ink text-xs font-semibold">
                    {p.initials}
                  </span>
                  <span className="font-medium">{p.name}</span>
                  <span className="ml-auto text-right text-sm text-soft">{p.title}</span>
                </button>
              </li>
            ))}
          </ul>
          <p className="mt-2 text-sm text-soft">
            All people, drawings and firms here are made up. A click fills the form.
          </p>
        </section>
      )}
    </main>
  );
}
