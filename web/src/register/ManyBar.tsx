import { useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import { useKept } from "../kept/useKept";
import type { DocumentRow, OneOfMany } from "../api/types";
import { FolderField } from "../ui/FolderField";
import { Button, Fault, Labelled, Tick } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { usePeople } from "../ui/people";

type Act = "move" | "file" | "use";
const titles: Record<Act, string> = {
  move: "Move to another standing",
  file: "File in a folder",
  use: "Send for use on site",
};

/** What can be done with the documents picked in the register: one or many alike. */
export function ManyBar({ picked, onClear }: { picked: readonly DocumentRow[]; onClear: () => void }) {
  const me = useMe();
  const [act, setAct] = useState<Act | null>(null);
  if (picked.length === 0) return null;
  const mine = picked.filter((d) => d.originator === me.id && (d.standing === "in work" || d.standing === "returned"));
  return (
    <div className="sticky top-0 z-20 flex flex-wrap items-center gap-2 border-b border-ink bg-raised px-4 py-1.5">
      <b className="font-semibold">
        {picked.length} {picked.length === 1 ? "document" : "documents"}
      </b>
      {(Object.keys(titles) as Act[]).map((a) => (
        <Button key={a} onClick={() => setAct(a)}>
          {titles[a]}
        </Button>
      ))}
      {mine.length === picked.length && (
        <Link
          to={`/send?${picked.map((d) => `document=${d.id}`).join("&")}`}
          className="inline-flex min-h-8 items-center rounded-[5px] border border-edge bg-raised px-3 font-medium hover:bg-lit"
        >
          Send for review
        </Link>
      )}
      <Button look="quiet" className="ml-auto" onClick={onClear}>
        Pick none
      </Button>
      <SideSheet title={act ? titles[act] : ""} open={act !== null} onClose={() => setAct(null)}>
        {act && <Form key={act} act={act} picked={picked} onDone={() => setAct(null)} />}
      </SideSheet>
    </div>
  );
}

function Form({ act, picked, onDone }: { act: Act; picked: readonly DocumentRow[]; onDone: () => void }) {
  const client = useQueryClient();
  const people = usePeople();
  const { data: groups } = useQuery({ queryKey: ["groups"], queryFn: () => api.get("/groups") });
  const [to, setTo] = useState("");
  const [copy, setCopy] = useState(false);
  const [told, setTold] = useState<readonly string[]>([]);
  const written = useKept(`${act} of many documents`, { reason: "", message: "" });
  const { reason, message } = written.value;
  const setReason = (reason: string) => written.set({ reason, message });
  const setMessage = (message: string) => written.set({ reason, message });
  const [done, setDone] = useState<readonly OneOfMany[]>([]);
  const folders = useQueries({
    queries: [...new Set(picked.map((d) => d.folder))].map((path) => ({
      queryKey: ["folders", "one", path],
      queryFn: () => api.get("/folders/one", { path }),
      enabled: act === "move",
    })),
  });
  const stages = [
    ...new Set(folders.flatMap((f) => (f.data?.standings ?? f.data?.followed)?.stages.map((s) => s.name) ?? [])),
  ];
  const documents = picked.map((d) => d.id);
  const running = useAct(async (key) => {
    const once = api.once(key);
    let isWhole = true;
    if (act === "use")
      await once.post("/documents/use", {
        documents,
        people: told.filter((t) => people.has(t)),
        groups: told.filter((t) => !people.has(t)),
        reason,
        message,
      });
    else {
      const result =
        act === "move"
          ? await once.post("/documents/standings", { documents, to, reason, message, people: [...told] })
          : await once.post("/documents/places", { documents, folder: to, copy, reason });
      setDone(result);
      isWhole = result.every((r) => !r.refusal);
    }
    if (isWhole) written.discard();
    await client.invalidateQueries();
    if (isWhole) onDone();
  });
  if (act === "move" && folders.every((f) => f.data) && stages.length === 0)
    return <p>These documents are in folders without standings in order. An administrator sets one in the office.</p>;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void running.run();
      }}
    >
      {act === "move" && (
        <Labelled label="To" hint="A jump over several standings records every passage.">
          <select className="field" value={to} onChange={(e) => setTo(e.target.value)}>
            <option value="">choose</option>
            {stages.map((s) => (
              <option key={s} value={s}>
                {s}
              </option>
            ))}
          </select>
        </Labelled>
      )}
      {act === "file" && (
        <>
          <Labelled label="Folder">
            <FolderField value={to} onChange={setTo} />
          </Labelled>
          <Tick words="as a copy: they stay where they are and are found there as well" on={copy} set={setCopy} />
        </>
      )}
      {(act === "use" || act === "move") && (
        <fieldset className="mb-3">
          <legend className="label mb-1">
            {act === "use" ? "Who is to use them" : "Who is told of it; nobody is by itself"}
          </legend>
          <div className="grid max-h-48 grid-cols-2 gap-x-3 overflow-y-auto">
            {[...(act === "use" ? (groups ?? []) : []), ...people.values()].map((x) => (
              <label key={x.id} className="flex items-center gap-2 py-0.5">
                <input
                  type="checkbox"
                  className="accent-spruce"
                  checked={told.includes(x.id)}
                  onChange={() => setTold(told.includes(x.id) ? told.filter((t) => t !== x.id) : [...told, x.id])}
                />
                {x.name}
              </label>
            ))}
          </div>
        </fieldset>
      )}
      {(act === "use" || (act === "move" && told.length > 0)) && (
        <Labelled label="Message to them">
          <textarea
            className="field"
            rows={2}
            maxLength={4000}
            value={message}
            onChange={(e) => setMessage(e.target.value)}
          />
        </Labelled>
      )}
      <Labelled label="Reason, for the record">
        <textarea
          className="field"
          rows={2}
          maxLength={4000}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
        />
      </Labelled>
      {done.some((d) => d.refusal) && (
        <div role="alert" className="my-2 border-l-[3px] border-rust bg-fault px-3 py-2 text-fault-ink">
          <p>
            {done.filter((d) => !d.refusal).length} of {done.length} done. Not done:
          </p>
          {done
            .filter((d) => d.refusal)
            .map((d) => (
              <p key={d.id}>{d.refusal}</p>
            ))}
        </div>
      )}
      <Fault>{running.fault}</Fault>
      <Button
        look="main"
        type="submit"
        disabled={running.isBusy || reason.trim() === "" || (act === "use" ? told.length === 0 : to === "")}
      >
        {titles[act]}
      </Button>
    </form>
  );
}
