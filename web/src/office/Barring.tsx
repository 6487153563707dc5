import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { useMe } from "../session/me";
import { api } from "../api/client";
import type { OneOfMany, Person } from "../api/types";
import { Button, Fault, Labelled } from "../ui/kit";
import { PersonSelect } from "../ui/PersonSelect";
import { usePeople } from "../ui/people";
import { when } from "../ui/time";
import { useKeep } from "./useKeep";

const words: Readonly<Record<string, readonly [one: string, many: string]>> = {
  seats: ["package in which they hold a seat", "packages in which they hold a seat"],
  packages: ["package they sent, on its way", "packages they sent, on their way"],
  documents: ["document of theirs, not released", "documents of theirs, not released"],
  requests: ["request of theirs, not closed", "requests of theirs, not closed"],
  questions: ["question that waits for their advice", "questions that wait for their advice"],
  plans: ["plan in their keeping", "plans in their keeping"],
  deputies: ["person they stand in for", "people they stand in for"],
};

/** Shutting a person out, with what they hold before it is done; and letting them in again. */
export function Barring({ person }: { person: Person }) {
  const me = useMe();
  const [asked, setAsked] = useState(false);
  const [reason, setReason] = useState("");
  const { keep, fault } = useKeep();
  const barred = person.barredAt ?? null;
  const { data: holds } = useQuery({
    queryKey: ["people", person.id, "holds"],
    queryFn: () => api.get(`/people/${person.id}/holds`),
    enabled: asked && barred === null,
  });
  if (person.id === me.id) return null;
  const act = async () => {
    const done = await keep(async (key) => {
      if (barred) await api.once(key).post(`/people/${person.id}/letting-in`, { reason });
      else await api.once(key).put(`/people/${person.id}/barring`, { reason });
      return true;
    });
    if (!done) return;
    setAsked(false);
    setReason("");
  };
  return (
    <section aria-label="Barring" className="mt-8 border-t border-rule pt-4">
      {barred && (
        <p role="status" className="mb-3 font-semibold">
          Barred since {when(barred)}: cannot sign in, and no seat is filled with them.
        </p>
      )}
      {!asked ? (
        <Button onClick={() => setAsked(true)}>{barred ? "Let them in again" : "Bar this person"}</Button>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void act();
          }}
        >
          {!barred && (
            <>
              <h3 className="label mb-1">What they hold</h3>
              {holds?.length === 0 && (
                <p className="mb-3 text-soft">Nothing that somebody else would have to take over.</p>
              )}
              <ul className="mb-3">
                {holds?.map((h) => (
                  <li key={h.kind} className="border-b border-dotted border-rule py-1.5">
                    <b className="font-semibold">
                      {h.count} {words[h.kind]?.[h.count === 1 ? 0 : 1] ?? h.kind}
                    </b>
                    <span className="block text-sm">
                      {h.first.map((x, i) => (
                        <span key={x.link + x.name}>
                          {i > 0 && ", "}
                          <Link className="underline" to={x.link}>
                            {x.name}
                          </Link>
                        </span>
                      ))}
                      {h.count > h.first.length && ` and ${h.count - h.first.length} more`}
                    </span>
                  </li>
                ))}
              </ul>
              {me.canCoordinate && holds !== undefined && holds.length > 0 && (
                <HandOver person={person} reason={reason} />
              )}
              <p className="mb-3 text-soft">
                Their sessions end at once. Seats stay theirs until they are handed over; what they signed stands.
              </p>
            </>
          )}
          <Labelled label="Reason, for the record">
            <input className="field" maxLength={4000} value={reason} onChange={(e) => setReason(e.target.value)} />
          </Labelled>
          <Fault>{fault}</Fault>
          <div className="flex gap-2">
            <Button look="main" type="submit" disabled={reason.trim() === ""}>
              {barred ? "Let in" : "Bar"} {person.name}
            </Button>
            <Button look="quiet" onClick={() => setAsked(false)}>
              Cancel
            </Button>
          </div>
        </form>
      )}
    </section>
  );
}

/** Hands over in one go what somebody else has to take over: seats, with what was asked from them, packages and documents. */
function HandOver({ person, reason }: { person: Person; reason: string }) {
  const people = usePeople();
  const { keep, fault } = useKeep();
  const [to, setTo] = useState("");
  const [done, setDone] = useState<readonly OneOfMany[] | null>(null);
  const failed = (done ?? []).filter((d) => d.refusal);
  return (
    <div className="mb-3 border border-rule p-3">
      <h3 className="label mb-1">Hand it over</h3>
      <p className="mb-2 text-soft">
        Seats, packages and documents; what they asked for goes with their seats. It takes the reason below.
      </p>
      <div className="flex gap-2">
        <PersonSelect
          label="To whom"
          nobody="to whom"
          people={[...people.values()].filter((x) => x.id !== person.id && !x.isGuest)}
          value={to}
          onChange={setTo}
        />
        <Button
          className="whitespace-nowrap"
          disabled={to === "" || reason.trim() === ""}
          onClick={() =>
            void keep(async (key) => {
              setDone(await api.once(key).post("/hand-overs", { to, reason, from: person.id, everything: true }));
              return true;
            })
          }
        >
          Hand over
        </Button>
      </div>
      <Fault>{fault}</Fault>
      {done && (
        <div role="status" className="mt-2">
          {done.length - failed.length} handed over.
          {failed.map((d) => (
            <p key={d.id + (d.refusal ?? "")} className="text-rust">
              {d.name}: {d.refusal}
            </p>
          ))}
        </div>
      )}
    </div>
  );
}
