import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import type { Person } from "../api/types";
import { Awaited } from "../ui/Awaited";
import { Button, Empty, Fault, Labelled, Tick } from "../ui/kit";
import { Barring } from "./Barring";
import { useAddress } from "../lists/useAddress";
import { ListBeside } from "./ListBeside";
import { Unkept } from "../kept/Unkept";
import { useChange } from "../kept/useChange";
import { useKeep } from "./useKeep";

const nobody: Person = {
  id: "",
  login: "",
  name: "",
  initials: "",
  title: "",
  email: "",
  timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  isGuest: false,
  calendar: null,
};

/** People: how they sign in, where they are, by which calendar they work. */
export function Staff() {
  const list = useQuery({ queryKey: ["people"], queryFn: () => api.get("/people") });
  const { data } = list;
  const [picked, setPicked] = useAddress("person");
  const person = picked === "" ? nobody : data?.find((p) => p.id === picked);
  return (
    <ListBeside
      label="People"
      rows={(data ?? []).map((p) => ({
        id: p.id,
        name: p.name,
        beside: p.barredAt ? "barred" : p.isGuest ? "guest" : p.title,
      }))}
      picked={picked}
      onPick={setPicked}
      add="Add a person"
      onAdd={() => setPicked("")}
    >
      {person ? (
        <>
          <PersonForm key={person.id} person={person} onMade={setPicked} />
          {person.id !== "" && <Barring key={`barring ${person.id}`} person={person} />}
        </>
      ) : !data ? (
        <Awaited what="the people" of={list} />
      ) : (
        <Empty title="Pick a person">Or add one who is to sign in here.</Empty>
      )}
    </ListBeside>
  );
}

function PersonForm({ person, onMade }: { person: Person; onMade: (id: string) => void }) {
  const { data: calendars } = useQuery({
    queryKey: ["calendars"],
    queryFn: () => api.get("/calendars"),
  });
  const { data: groups } = useQuery({ queryKey: ["groups"], queryFn: () => api.get("/groups") });
  const form = useChange(`change of person ${person.id || "new"}`, person);
  const wanted = form.value;
  const [password, setPassword] = useState("");
  const { keep, fault, kept, isBusy } = useKeep();
  const isNew = person.id === "";
  const set = form.set;
  const save = async () => {
    const body = { ...wanted, calendar: wanted.calendar ?? null, password: password || null };
    const id = await keep(async (key) => {
      if (isNew) return (await api.once(key).post("/people", body)).id;
      await api
        .once(key)
        .put(`/people/${person.id}`, { ...body, was: { ...person, calendar: person.calendar ?? null } });
      return person.id;
    });
    if (id === undefined) return;
    form.discard();
    setPassword("");
    if (isNew) onMade(id);
  };
  const text = (key: "login" | "name" | "initials" | "title" | "email", label: string, longest: number) => (
    <Labelled label={label}>
      <input
        className="field"
        required={key !== "title"}
        maxLength={longest}
        type={key === "email" ? "email" : "text"}
        value={wanted[key]}
        onChange={(e) => set({ [key]: e.target.value })}
      />
    </Labelled>
  );
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <h2 className="mb-3 text-xl font-semibold">{isNew ? "New person" : person.name}</h2>
      <Unkept {...form} />
      <div className="grid grid-cols-2 gap-x-4">
        {text("name", "Name", 120)}
        {text("initials", "Initials", 4)}
        {text("title", "What they do", 120)}
        {text("email", "Mail address", 200)}
        {text("login", "Signs in as", 60)}
        <Labelled label={isNew ? "First password" : "New password, if it is to change"}>
          <input
            className="field"
            type="password"
            autoComplete="new-password"
            required={isNew}
            minLength={12}
            maxLength={128}
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
        </Labelled>
        <Labelled label="Time zone">
          <input
            className="field"
            list="zones"
            required
            value={wanted.timeZone}
            onChange={(e) => set({ timeZone: e.target.value })}
          />
          <datalist id="zones">
            {Intl.supportedValuesOf("timeZone").map((z) => (
              <option key={z} value={z} />
            ))}
          </datalist>
        </Labelled>
        <Labelled label="Works by">
          <select
            className="field"
            value={wanted.calendar ?? ""}
            onChange={(e) => set({ calendar: e.target.value || null })}
          >
            <option value="">the office&apos;s calendar</option>
            {calendars?.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </Labelled>
      </div>
      <Tick words="A guest from outside" on={wanted.isGuest} set={(isGuest) => set({ isGuest })} />
      {!isNew && (
        <p className="mb-3 text-soft">
          Groups:{" "}
          {groups
            ?.filter((g) => g.members.includes(person.id))
            .map((g) => g.name)
            .join(", ") || "none"}
        </p>
      )}
      <Fault>{fault}</Fault>
      <div className="flex items-center gap-3">
        <Button look="main" type="submit" disabled={isBusy}>
          {isNew ? "Add" : "Keep"}
        </Button>
        {kept && <span role="status">Kept.</span>}
      </div>
    </form>
  );
}
