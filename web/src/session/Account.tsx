import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import { Button, Fault, Labelled } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { when } from "../ui/time";
import { NewPassword } from "./NewPassword";

/** One's own password, and where one is signed in. */
export function Account({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <SideSheet title="Password and sessions" open={open} onClose={onClose}>
      {open && (
        <>
          <Password />
          <OwnSessions />
        </>
      )}
    </SideSheet>
  );
}

function Password() {
  const client = useQueryClient();
  const [now, setNow] = useState("");
  const [wanted, setWanted] = useState<string | null>(null);
  const [done, setDone] = useState(0);
  const changing = useAct(async (key) => {
    await api.once(key).put("/session/password", { now, new: wanted! });
    await client.invalidateQueries({ queryKey: ["sessions"] });
    setNow("");
    setWanted(null);
    setDone(done + 1);
  });
  const { fault, isBusy: busy } = changing;
  return (
    <form
      className="mb-8"
      onSubmit={(e) => {
        e.preventDefault();
        if (wanted !== null) void changing.run();
      }}
    >
      <h3 className="label mb-2">Change the password</h3>
      <Labelled label="Your password now">
        <input
          className="field"
          type="password"
          autoComplete="current-password"
          maxLength={128}
          value={now}
          onChange={(e) => setNow(e.target.value)}
        />
      </Labelled>
      <NewPassword key={done} onChange={setWanted} />
      <Fault>{fault}</Fault>
      <div className="flex items-center gap-3">
        <Button look="main" type="submit" disabled={busy || now === "" || wanted === null}>
          Change it
        </Button>
        {done > 0 && wanted === null && <span role="status">Changed. Everywhere else you have been signed out.</span>}
      </div>
    </form>
  );
}

/** What a browser says of itself, in two words. */
function browserName(said: string): string {
  const system = /Windows|Mac OS X|Android|iPhone|iPad|Linux/.exec(said)?.[0].replace("Mac OS X", "Mac") ?? "";
  const name = /Firefox/.test(said)
    ? "Firefox"
    : /Edg\//.test(said)
      ? "Edge"
      : /Chrom(e|ium)\//.test(said)
        ? "Chromium"
        : /Safari\//.test(said)
          ? "Safari"
          : "A browser";
  return system ? `${name} on ${system}` : name;
}

function OwnSessions() {
  const client = useQueryClient();
  const { data } = useQuery({ queryKey: ["sessions"], queryFn: () => api.get("/sessions") });
  const [fault, setFault] = useState<string | null>(null);
  const end = async (id: string) => {
    setFault(null);
    try {
      await api.delete(`/sessions/${id}`);
    } catch (e) {
      setFault((e as Error).message);
    }
    await client.invalidateQueries({ queryKey: ["sessions"] });
  };
  return (
    <section aria-label="Where you are signed in">
      <h3 className="label mb-2">Where you are signed in</h3>
      <ul>
        {data?.map((s) => (
          <li key={s.id} className="flex items-center gap-3 border-t border-rule py-2">
            <span className="min-w-0 flex-1">
              <b className="font-semibold">{browserName(s.browser)}</b>
              <span className="block text-sm text-soft">
                {s.address}; since {when(s.beganAt)}, used {when(s.seenAt)}
              </span>
            </span>
            {s.isThis ? (
              <span className="text-soft">this one</span>
            ) : (
              <Button onClick={() => void end(s.id)}>End it</Button>
            )}
          </li>
        ))}
      </ul>
      <Fault>{fault}</Fault>
    </section>
  );
}
