import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { api } from "../api/client";
import type { GrantedRight, GroupRight, PersonGroup, Right } from "../api/types";
import { FolderField } from "../ui/FolderField";
import { Awaited } from "../ui/Awaited";
import { Button, Empty, Fault, Labelled } from "../ui/kit";
import { usePeople } from "../ui/people";
import { useAddress } from "../lists/useAddress";
import { ListBeside } from "./ListBeside";
import { Unkept } from "../kept/Unkept";
import { useChange } from "../kept/useChange";
import { useKeep } from "./useKeep";

export const rightWords: Record<Right, string> = {
  read: "read",
  send: "register and send",
  sign: "sign",
  buildPlans: "build plans",
  coordinate: "change packages on their way",
  moveStandings: "move standings",
  withdraw: "withdraw revisions and documents",
  unlockReleased: "unlock what is released",
  administer: "administer",
};

/** Groups: who is in them, and what they may do in which folder. */
export function Groups() {
  const list = useQuery({ queryKey: ["groups"], queryFn: () => api.get("/groups"), meta: { saysItself: true } });
  const held = useQuery({ queryKey: ["rights"], queryFn: () => api.get("/rights"), meta: { saysItself: true } });
  const [data, rights] = [list.data, held.data];
  const [picked, setPicked] = useAddress("group");
  const group = picked === "" ? { id: "", name: "", members: [] } : data?.find((g) => g.id === picked);
  return (
    <ListBeside
      label="Groups"
      rows={(data ?? []).map((g) => ({
        id: g.id,
        name: g.name,
        beside: `${g.members.length} ${g.members.length === 1 ? "person" : "people"}`,
      }))}
      picked={picked}
      onPick={setPicked}
      add="Add a group"
      onAdd={() => setPicked("")}
    >
      {group && rights ? (
        <GroupForm
          key={group.id}
          group={group}
          rights={rights.filter((r) => r.group === group.id)}
          onMade={setPicked}
          onGone={() => setPicked(null)}
        />
      ) : !data || !rights ? (
        <Awaited what="the groups" of={data ? held : list} />
      ) : (
        <Empty title="Pick a group">Rights are given to groups, so that a plan stays when people change seats.</Empty>
      )}
    </ListBeside>
  );
}

function GroupForm({
  group,
  rights,
  onMade,
  onGone,
}: {
  group: PersonGroup;
  rights: readonly GroupRight[];
  onMade: (id: string) => void;
  onGone: () => void;
}) {
  const people = [...usePeople().values()];
  const now = {
    name: group.name,
    members: group.members,
    granted: rights.map(({ right, folder }): GrantedRight => ({ right, folder })),
  };
  const form = useChange<{ name: string; members: readonly string[]; granted: readonly GrantedRight[] }>(
    `change of group ${group.id || "new"}`,
    now,
  );
  const { name, members, granted } = form.value;
  const set = form.set;
  const setMembers = (members: readonly string[]) => set({ members });
  const setGranted = (granted: readonly GrantedRight[]) => set({ granted });
  const [right, setRight] = useState<Right>("read");
  const [folder, setFolder] = useState("");
  const { keep, fault, kept, isBusy } = useKeep();
  const isNew = group.id === "";
  const save = async () => {
    const body = { name, members, rights: granted };
    const was = { name: now.name, members: now.members, rights: now.granted };
    const id = await keep(async (key) => {
      if (isNew) return (await api.once(key).post("/groups", body)).id;
      await api.once(key).put(`/groups/${group.id}`, { ...body, was });
      return group.id;
    });
    if (id === undefined) return;
    form.discard();
    if (isNew) onMade(id);
  };
  const where = (path: string) => (path === "" ? "everywhere" : `in ${path}`);
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <h2 className="mb-3 text-xl font-semibold">{isNew ? "New group" : group.name}</h2>
      <Unkept {...form} />
      <Labelled label="Name">
        <input className="field" required maxLength={60} value={name} onChange={(e) => set({ name: e.target.value })} />
      </Labelled>
      <fieldset className="mb-4">
        <legend className="label mb-1">Members · {members.length}</legend>
        <div className="grid max-h-56 grid-cols-3 gap-x-4 overflow-y-auto border border-rule bg-raised px-3 py-2">
          {people.map((p) => (
            <label key={p.id} className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="accent-spruce"
                checked={members.includes(p.id)}
                onChange={() =>
                  setMembers(members.includes(p.id) ? members.filter((m) => m !== p.id) : [...members, p.id])
                }
              />
              <span className="truncate">{p.name}</span>
            </label>
          ))}
        </div>
      </fieldset>
      <h3 className="label mb-1">They may</h3>
      {granted.length === 0 && <p className="text-soft">Nothing. The group can still be a seat of a plan.</p>}
      <ul className="mb-2">
        {granted.map((r) => (
          <li
            key={`${r.right} ${r.folder}`}
            className="flex items-center gap-2 border-b border-dotted border-rule py-1"
          >
            <b className="font-semibold">{rightWords[r.right]}</b>
            <span className="flex-1 text-soft">{where(r.folder)}</span>
            <button
              type="button"
              aria-label={`Take away: ${rightWords[r.right]} ${where(r.folder)}`}
              className="rounded p-1 hover:bg-picked"
              onClick={() => setGranted(granted.filter((g) => g !== r))}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ul>
      <div className="mb-4 flex gap-2">
        <select className="field" aria-label="Right" value={right} onChange={(e) => setRight(e.target.value as Right)}>
          {(Object.keys(rightWords) as Right[]).map((r) => (
            <option key={r} value={r}>
              {rightWords[r]}
            </option>
          ))}
        </select>
        <FolderField label="Folder" placeholder="everywhere, or a folder" value={folder} onChange={setFolder} />
        <Button
          disabled={granted.some((g) => g.right === right && g.folder === folder)}
          onClick={() => setGranted([...granted, { right, folder }])}
        >
          Give
        </Button>
      </div>
      <Fault>{fault}</Fault>
      <div className="flex items-center gap-3">
        <Button look="main" type="submit" disabled={isBusy}>
          {isNew ? "Add" : "Keep"}
        </Button>
        {kept && <span role="status">Kept.</span>}
        {!isNew && (
          <Button
            look="quiet"
            className="ml-auto"
            onClick={() =>
              void keep(async (key) => {
                await api.once(key).delete(`/groups/${group.id}`);
                return true;
              }).then((gone) => {
                if (!gone) return;
                form.discard();
                onGone();
              })
            }
          >
            Remove the group
          </Button>
        )}
      </div>
    </form>
  );
}
