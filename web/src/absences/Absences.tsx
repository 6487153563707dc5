import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useMe } from "../session/me";
import { useKept } from "../kept/useKept";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import type { OneOfMany, Person } from "../api/types";
import { Button, Fault, Labelled } from "../ui/kit";
import { DateField } from "../ui/DateField";
import { SideSheet } from "../ui/SideSheet";
import { usePeople } from "../ui/people";
import { PersonSelect } from "../ui/PersonSelect";
import { dayWords } from "../ui/time";

/** When people are away, and who signs for them; and handing over every seat one holds. */
export function Absences({
  open,
  person: about = null,
  onClose,
}: {
  open: boolean;
  /** Only this person's absences, because a deputy is to be named for them. */
  person?: string | null;
  onClose: () => void;
}) {
  const me = useMe();
  const people = usePeople();
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: ["absences"],
    queryFn: () => api.get("/absences"),
    enabled: open,
  });
  const form = useKept("absence", { person: me.id, from: "", to: "", deputy: "" });
  const { person, from, to, deputy } = form.value;
  const set = (patch: Partial<typeof form.value>) => form.set({ ...form.value, ...patch });
  const act = useAct(async (key, work: (key: string) => Promise<unknown>) => {
    await work(key);
    await client.invalidateQueries();
  });
  const staff = [...people.values()].filter((p) => !p.isGuest && !p.barredAt);
  return (
    <SideSheet title="Absences" open={open} onClose={onClose}>
      {about && <p className="mb-3">A package would wait for {people.get(about)?.name}. Name who signs meanwhile.</p>}
      {data?.length === 0 && <p className="mb-4 text-soft">Nobody has entered an absence.</p>}
      <ul className="mb-5">
        {data
          ?.filter((a) => about === null || a.person === about)
          .map((a) => (
            <li key={a.id} className="flex items-center gap-3 border-b border-rule py-2">
              <span className="flex-1">
                <b className="font-semibold">{people.get(a.person)?.name}</b>
                <span className="block text-sm text-soft">
                  from {dayWords(a.firstDay)}, back on {dayWords(a.backDay)};{" "}
                  {a.deputy ? `${people.get(a.deputy)?.name ?? ""} signs for them` : "no deputy"}
                </span>
                {(a.person === me.id || me.canCoordinate) && (
                  <PersonSelect
                    label={`Deputy of ${people.get(a.person)?.name ?? ""}`}
                    value={a.deputy ?? ""}
                    nobody="nobody signs for them"
                    people={staff.filter((p) => p.id !== a.person)}
                    words={(p) => `${p.name} signs`}
                    onChange={(deputy) =>
                      void act.run((key) => api.once(key).put(`/absences/${a.id}`, { deputy: deputy || null }))
                    }
                  />
                )}
              </span>
              {(a.person === me.id || me.canCoordinate) && (
                <Button onClick={() => void act.run((key) => api.once(key).delete(`/absences/${a.id}`))}>Remove</Button>
              )}
            </li>
          ))}
      </ul>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void act
            .run((key) => api.post("/absences", { person, firstDay: from, backDay: to, deputy: deputy || null, key }))
            .then((done) => done && form.discard());
        }}
      >
        <h3 className="label mb-2">Enter an absence</h3>
        {me.canCoordinate && (
          <Labelled label="Who">
            <PersonSelect people={staff} value={person} onChange={(person) => set({ person })} />
          </Labelled>
        )}
        <div className="grid grid-cols-2 gap-3">
          <Labelled label="First day away">
            <DateField value={from} onChange={(from) => set({ from })} />
          </Labelled>
          <Labelled label="First day back">
            <DateField value={to} onChange={(to) => set({ to })} />
          </Labelled>
        </div>
        <Labelled label="Deputy" hint="Signs in their place meanwhile; the ledger says so.">
          <PersonSelect
            people={staff.filter((p) => p.id !== person)}
            value={deputy}
            nobody="nobody"
            onChange={(deputy) => set({ deputy })}
          />
        </Labelled>
        <Fault>{act.fault}</Fault>
        <Button look="main" type="submit" disabled={act.isBusy || !from || !to}>
          {act.isBusy ? "Entering …" : "Enter absence"}
        </Button>
      </form>
      {about === null && <HandOverAll staff={staff} />}
    </SideSheet>
  );
}

/** Every seat one holds, open or to come, to a colleague: for leaving, or a long absence. */
function HandOverAll({ staff }: { staff: readonly Person[] }) {
  const me = useMe();
  const client = useQueryClient();
  const form = useKept("hand-over", { from: me.id, to: "", reason: "" });
  const { from, to, reason } = form.value;
  const set = (patch: Partial<typeof form.value>) => form.set({ ...form.value, ...patch });
  const [done, setDone] = useState<readonly OneOfMany[] | null>(null);
  const act = useAct(async (key) => {
    const over = { to, reason, from: from === me.id ? null : from, everything: false };
    setDone(await api.once(key).post("/hand-overs", over));
    form.discard();
    await client.invalidateQueries();
  });
  return (
    <form
      className="mt-8 border-t border-rule pt-4"
      onSubmit={(e) => {
        e.preventDefault();
        void act.run();
      }}
    >
      <h3 className="label mb-2">Hand over all seats</h3>
      <p className="mb-2 text-soft">Every seat not signed yet, open or to come. What is signed stays.</p>
      {me.canCoordinate && (
        <Labelled label="Whose">
          <PersonSelect people={staff} value={from} onChange={(from) => set({ from })} />
        </Labelled>
      )}
      <Labelled label="To">
        <PersonSelect
          people={staff.filter((p) => p.id !== from)}
          value={to}
          nobody="choose"
          onChange={(to) => set({ to })}
        />
      </Labelled>
      <Labelled label="Reason, for the record">
        <input className="field" maxLength={4000} value={reason} onChange={(e) => set({ reason: e.target.value })} />
      </Labelled>
      <Fault>{act.fault}</Fault>
      <Button type="submit" disabled={act.isBusy || !to || reason.trim() === ""}>
        {act.isBusy ? "Handing over …" : "Hand over"}
      </Button>
      {done && (
        <div role="status" className="mt-3">
          <p>
            {done.filter((d) => !d.refusal).length} of {done.length} seats handed over.
          </p>
          {done
            .filter((d) => d.refusal)
            .map((d, i) => (
              <p key={i} className="text-rust">
                {d.name}: {d.refusal}
              </p>
            ))}
        </div>
      )}
    </form>
  );
}
