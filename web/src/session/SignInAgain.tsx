import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api } from "../api/client";
import type { Me } from "../api/types";
import { Button, Fault, Labelled } from "../ui/kit";
import { unlessGoneOn } from "../ui/unlessGoneOn";
import { Veil } from "../ui/Veil";

/** The session ended while a page was open: its person signs in again over the page, which keeps everything typed. */
export function SignInAgain({ person, onOther }: { person: Me; onOther: () => void }) {
  const client = useQueryClient();
  const [password, setPassword] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const signIn = async () => {
    setBusy(true);
    setFault(null);
    try {
      await api.post("/session", { login: person.login, password });
      await client.invalidateQueries();
    } catch (e) {
      setFault((e as Error).message);
    }
    setBusy(false);
  };
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Veil layer="z-[60]" />
        <Dialog.Content
          aria-describedby="again"
          onCloseAutoFocus={unlessGoneOn}
          className="fixed top-1/2 left-1/2 z-[70] w-[400px] max-w-[calc(100vw-2rem)] -translate-1/2 rounded-md border border-rule bg-raised p-5 shadow-2xl"
        >
          <Dialog.Title className="text-lg font-semibold">Your session has ended</Dialog.Title>
          <p id="again" className="mt-1 mb-3 text-soft">
            Sign in again as {person.name}. What you typed is still there.
          </p>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              void signIn();
            }}
          >
            <Labelled label="Password">
              <input
                className="field"
                type="password"
                autoComplete="current-password"
                autoFocus
                value={password}
                onChange={(e) => setPassword(e.target.value)}
              />
            </Labelled>
            <Fault>{fault}</Fault>
            <div className="flex justify-between gap-2">
              <Button look="main" type="submit" disabled={busy || password === ""}>
                Sign in again
              </Button>
              <Button look="quiet" onClick={onOther}>
                I am somebody else
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
