import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { api } from "../api/client";
import type { FolderDetail, PersonGroup, StandingOrder } from "../api/types";
import { FolderLevel } from "../ui/FolderTree";
import { Awaited } from "../ui/Awaited";
import { Button, Fault, Labelled, Tick } from "../ui/kit";
import { useSettled } from "../ui/useSettled";
import { ListBeside } from "./ListBeside";
import { useAddress } from "../lists/useAddress";
import { Unkept } from "../kept/Unkept";
import { putWhole } from "../kept/putOn";
import { useChange } from "../kept/useChange";
import { keptPlace, useKept } from "../kept/useKept";
import { useMe } from "../session/me";
import { useKeep } from "./useKeep";

const firstOrder: StandingOrder = {
  stages: [
    { name: "in work", forUse: false, needsAnswers: false, needsWholeFile: false },
    { name: "self-checked", forUse: false, needsAnswers: false, needsWholeFile: false },
    { name: "fit for use", forUse: true, needsAnswers: true, needsWholeFile: false },
  ],
  moves: [],
};

/** The register's folders, and the standings documents pass through in them outside packages. */
export function Folders() {
  const [address, setAddress] = useAddress("folder");
  const picked = address ?? "";
  const setPicked = (path: string) => setAddress(path === "" ? null : path);
  const [adding, setAdding] = useState(false);
  const one = useQuery({
    queryKey: ["folders", "one", picked],
    queryFn: () => api.get("/folders/one", { path: picked }),
    meta: { saysItself: true },
  });
  const folder = one.data;
  const pick = (path: string) => {
    setPicked(path);
    setAdding(false);
  };
  return (
    <ListBeside
      label="Folders"
      tree={(words) =>
        words.trim() === "" ? (
          <FolderLevel
            path=""
            depth={0}
            picked={adding ? "\u0000" : picked}
            onPick={pick}
            beside={(f) => (f.hasStandings ? "own standings" : "")}
          />
        ) : (
          <FoundFolders words={words} picked={picked} onPick={pick} />
        )
      }
      picked={adding ? null : picked}
      onPick={pick}
      add="Add a folder"
      onAdd={() => setAdding(true)}
    >
      {adding ? (
        <NewFolder
          inside={picked}
          onMade={(path) => {
            setPicked(path);
            setAdding(false);
          }}
        />
      ) : folder ? (
        <FolderForm key={folder.path} folder={folder} onMoved={setPicked} />
      ) : (
        <Awaited what="the folder" of={one} />
      )}
    </ListBeside>
  );
}

function FoundFolders({
  words: typed,
  picked,
  onPick,
}: {
  words: string;
  picked: string;
  onPick: (path: string) => void;
}) {
  const words = useSettled(typed);
  const { data } = useQuery({
    queryKey: ["folders", "found", words],
    queryFn: () => api.get("/folders/found", { words }),
    placeholderData: (before) => before,
  });
  if (data?.length === 0) return <p className="px-4 py-3 text-soft">None has these words.</p>;
  return (
    <ul>
      {data?.map((path) => (
        <li key={path}>
          <button
            type="button"
            aria-current={path === picked}
            className={`w-full border-b border-rule px-4 py-2 text-left [overflow-wrap:anywhere] ${path === picked ? "bg-picked" : "hover:bg-hover"}`}
            onClick={() => onPick(path)}
          >
            {path === "" ? "The register" : path}
          </button>
        </li>
      ))}
    </ul>
  );
}

function NewFolder({ inside, onMade }: { inside: string; onMade: (path: string) => void }) {
  const { value: name, set: setName, discard } = useKept(`folder new in ${inside}`, "");
  const { keep, fault } = useKeep();
  const path = [inside, name.trim()].filter(Boolean).join(" / ");
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void keep(async (key) => {
          await api.once(key).post("/folders", { path });
          return true;
        }).then((done) => {
          if (!done) return;
          discard();
          onMade(path);
        });
      }}
    >
      <h2 className="mb-3 text-xl font-semibold">New folder</h2>
      <Labelled label={inside === "" ? "Name" : `Name, in ${inside}`}>
        <input className="field" required autoFocus value={name} onChange={(e) => setName(e.target.value)} />
      </Labelled>
      <Fault>{fault}</Fault>
      <Button look="main" type="submit" disabled={name.trim() === ""}>
        Add
      </Button>
    </form>
  );
}

type Standings = { order: StandingOrder | null };

const thingOf = (path: string) => `standings of folder ${path}`;

function FolderForm({ folder, onMoved }: { folder: FolderDetail; onMoved: (path: string) => void }) {
  const { data: groups } = useQuery({ queryKey: ["groups"], queryFn: () => api.get("/groups") });
  const { value: path, set: setPath, ...moving } = useKept(`path of folder ${folder.path}`, folder.path);
  // Standings have an order: those of two people are not put together.
  const now: Standings = { order: folder.standings ?? null };
  const form = useChange(thingOf(folder.path), now, putWhole);
  const { order } = form.value;
  const setOrder = (order: StandingOrder | null) => form.set({ order });
  const me = useMe();
  const { keep, fault, kept } = useKeep();
  const keepOrder = (standings: StandingOrder | null) =>
    void keep(async (key) => {
      await api.once(key).put("/folders/standings", { path: folder.path, standings, was: { standings: now.order } });
      return true;
    }).then((done) => done && form.discard());
  const inherited = folder.followed ?? null;
  const rename = (i: number, name: string) =>
    order &&
    setOrder({
      stages: order.stages.map((s, k) => (k === i ? { ...s, name } : s)),
      moves: order.moves.map((m) => ({
        ...m,
        from: m.from === order.stages[i]!.name ? name : m.from,
        to: m.to === order.stages[i]!.name ? name : m.to,
      })),
    });
  const moveGroups = (from: string, to: string) =>
    order?.moves.find((m) => m.from === from && m.to === to)?.groups ?? [];
  const setMove = (from: string, to: string, of: readonly string[]) =>
    order &&
    setOrder({
      ...order,
      moves: [
        ...order.moves.filter((m) => !(m.from === from && m.to === to)),
        ...(of.length > 0 ? [{ from, to, groups: [...of] }] : []),
      ],
    });
  return (
    <>
      <h2 className="mb-3 text-xl font-semibold">{folder.path === "" ? "The register" : folder.path}</h2>
      <Unkept {...form} />
      {folder.path !== "" && (
        <form
          className="mb-6 flex items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            void keep(async (key) => {
              await api.once(key).put("/folders", { path: folder.path, to: path });
              return true;
            }).then((done) => {
              if (!done) return;
              moving.discard();
              // What was begun goes along.
              if (form.isKept) keptPlace(me.id, thingOf(path)).set({ was: now, theirs: form.value });
              form.discard();
              onMoved(path);
            });
          }}
        >
          <span className="flex-1">
            <Labelled label="Path: change it to rename or move the folder with all that is in it">
              <input className="field" value={path} onChange={(e) => setPath(e.target.value)} />
            </Labelled>
          </span>
          <span className="mb-3 flex gap-2">
            <Button type="submit" disabled={path.trim() === folder.path || path.trim() === ""}>
              Move
            </Button>
            <Button
              look="quiet"
              onClick={() =>
                void keep(async (key) => {
                  await api.once(key).delete("/folders", { path: folder.path });
                  return true;
                }).then((done) => {
                  if (!done) return;
                  moving.discard();
                  form.discard();
                  onMoved("");
                })
              }
            >
              Remove
            </Button>
          </span>
        </form>
      )}
      <h3 className="label mb-1">Standings outside packages</h3>
      <p className="mb-3 text-soft">
        {order
          ? "Documents in work here pass through these, in order."
          : inherited
            ? `As in ${folder.follows === "" ? "the whole register" : folder.follows}: ${inherited.stages.map((s) => s.name).join(" → ")}.`
            : "None: documents here are in work until a package is sent."}
      </p>
      {!order && <Button onClick={() => setOrder(inherited ?? firstOrder)}>Give it standings of its own</Button>}
      {order && (
        <>
          <ol className="mb-3 border border-rule bg-raised">
            {order.stages.map((s, i) => (
              <li key={i} className="border-t border-rule px-3 py-2 first:border-t-0">
                <div className="flex items-center gap-2">
                  <span className="w-5 text-soft">{i + 1}</span>
                  <input
                    className="field !w-52"
                    aria-label={`Name of standing ${i + 1}`}
                    maxLength={40}
                    value={s.name}
                    onChange={(e) => rename(i, e.target.value)}
                  />
                  <span className="flex-1" />
                  <button
                    type="button"
                    aria-label={`Remove ${s.name}`}
                    className="rounded p-1 hover:bg-picked"
                    onClick={() =>
                      setOrder({
                        stages: order.stages.filter((_, k) => k !== i),
                        moves: order.moves.filter((m) => m.from !== s.name && m.to !== s.name),
                      })
                    }
                  >
                    <X size={14} />
                  </button>
                </div>
                {i > 0 && (
                  <div className="mt-1.5 pl-7">
                    {(
                      [
                        ["forUse", "may be sent for use on site"],
                        ["needsAnswers", "every request must be closed"],
                        ["needsWholeFile", "its file must be shown whole"],
                      ] as const
                    ).map(([key, words]) => (
                      <Tick
                        key={key}
                        words={words}
                        on={!!s[key]}
                        set={(on) =>
                          setOrder({
                            ...order,
                            stages: order.stages.map((x, k) => (k === i ? { ...x, [key]: on } : x)),
                          })
                        }
                      />
                    ))}
                    <WhoMoves
                      words={`From ${order.stages[i - 1]!.name} to here`}
                      groups={groups ?? []}
                      picked={moveGroups(order.stages[i - 1]!.name, s.name)}
                      onChange={(of) => setMove(order.stages[i - 1]!.name, s.name, of)}
                    />
                    <WhoMoves
                      words={`Back to ${order.stages[i - 1]!.name}`}
                      groups={groups ?? []}
                      picked={moveGroups(s.name, order.stages[i - 1]!.name)}
                      onChange={(of) => setMove(s.name, order.stages[i - 1]!.name, of)}
                    />
                  </div>
                )}
              </li>
            ))}
          </ol>
          <div className="flex items-center gap-3">
            <Button
              onClick={() =>
                setOrder({
                  ...order,
                  stages: [
                    ...order.stages,
                    { name: "next standing", forUse: false, needsAnswers: false, needsWholeFile: false },
                  ],
                })
              }
            >
              Add a standing
            </Button>
            <Button look="main" onClick={() => keepOrder(order)}>
              Keep the standings
            </Button>
            {folder.standings && (
              <Button look="quiet" onClick={() => keepOrder(null)}>
                Take its own away
              </Button>
            )}
            {kept && <span role="status">Kept.</span>}
          </div>
        </>
      )}
      <Fault>{fault}</Fault>
    </>
  );
}

function WhoMoves({
  words,
  groups,
  picked,
  onChange,
}: {
  words: string;
  groups: readonly PersonGroup[];
  picked: readonly string[];
  onChange: (groups: readonly string[]) => void;
}) {
  return (
    <div className="mt-1 flex flex-wrap items-center gap-1.5">
      <span className="text-soft">{words}:</span>
      {picked.map((id) => {
        const name = groups.find((g) => g.id === id)?.name ?? "a group";
        return (
          <button
            key={id}
            type="button"
            aria-label={`${words}: ${name} no more`}
            className="inline-flex items-center gap-1 border border-rule px-1.5 text-sm hover:bg-picked"
            onClick={() => onChange(picked.filter((x) => x !== id))}
          >
            {name} <X size={11} />
          </button>
        );
      })}
      <select
        className="field !w-40 !py-0.5"
        aria-label={`${words}: add a group`}
        value=""
        onChange={(e) => e.target.value && onChange([...new Set([...picked, e.target.value])])}
      >
        <option value="">{picked.length === 0 ? "only with the right" : "add a group"}</option>
        {groups.map((g) => (
          <option key={g.id} value={g.id}>
            {g.name}
          </option>
        ))}
      </select>
    </div>
  );
}
