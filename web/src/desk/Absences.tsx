import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useMe } from "../App";
import { api } from "../api/client";
import type { AbsenceRow } from "../api/types";
import { Button, Fault, Labelled, SideSheet } from "../ui/kit";
import { usePeople } from "../ui/people";
import { exactly } from "../ui/time";

/** When people are away, and who signs for them. */
export function Absences({ open, onClose }: { open: boolean; onClose: () => void }) {
  const me = useMe();
  const people = usePeople();
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: ["absences"],
    queryFn: () => api.get<AbsenceRow[]>("/absences"),
    enabled: open,
  });
  const [person, setPerson] = useState(me.id);
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const [deputy, setDeputy] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const tell = async (work: Promise<unknown>) => {
    setFault(null);
    try {
      await work;
      await client.invalidateQueries();
    } catch (e) {
      setFault((e as Error).message);
    }
  };
  const staff = [...people.values()].filter((p) => !p.isGuest);
  return (
    <SideSheet title="Absences" open={open} onClose={onClose}>
      {data?.length === 0 && <p className="mb-4 text-soft">Nobody has entered an absence.</p>}
      <ul className="mb-5">
        {data?.map((a) => (
          <li key={a.id} className="flex items-center gap-3 border-b border-rule py-2">
            <span className="flex-1">
              <b className="font-semibold">{people.get(a.person)?.name}</b>
              <span className="block text-sm text-soft">
                from {exactly(a.from)} until {exactly(a.to)};{" "}
                {a.deputy ? `${people.get(a.deputy)?.name ?? ""} signs for them` : "no deputy"}
              </span>
            </span>
            {(a.person === me.id || me.canCoordinate) && (
              <Button onClick={() => void tell(api.delete(`/absences/${a.id}`))}>Remove</Button>
            )}
          </li>
        ))}
      </ul>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void tell(
            api.post("/absences", {
              person,
              from: new Date(`${from}T00:00`).toISOString(),
              to: new Date(`${to}T00:00`).toISOString(),
              deputy: deputy || null,
            }),
          );
        }}
      >
        <h3 className="label mb-2">Enter an absence</h3>
        {me.canCoordinate && (
          <Labelled label="Who">
            <select className="field" value={person} onChange={(e) => setPerson(e.target.value)}>
              {staff.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </select>
          </Labelled>
        )}
        <div className="grid grid-cols-2 gap-3">
          <Labelled label="First day away">
            <input className="field" type="date" value={from} onChange={(e) => setFrom(e.target.value)} />
          </Labelled>
          <Labelled label="First day back">
            <input className="field" type="date" value={to} onChange={(e) => setTo(e.target.value)} />
          </Labelled>
        </div>
        <Labelled label="Deputy" hint="Signs in their place meanwhile; the ledger says so.">
          <select className="field" value={deputy} onChange={(e) => setDeputy(e.target.value)}>
            <option value="">nobody</option>
            {staff
              .filter((p) => p.id !== person)
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
          </select>
        </Labelled>
        <Fault>{fault}</Fault>
        <Button look="main" type="submit" disabled={!from || !to}>
          Enter absence
        </Button>
      </form>
    </SideSheet>
  );
}
