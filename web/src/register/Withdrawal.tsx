import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import { useKept } from "../kept/useKept";
import type { DocumentDetail, DocumentRow } from "../api/types";
import { Button, Fault, Labelled } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { PersonSelect } from "../ui/PersonSelect";
import { usePeople } from "../ui/people";

/** Takes a document, or one of its revisions, out of use; whoever has it is told why. */
export function Withdrawal({
  d,
  drafts,
  open,
  onClose,
}: {
  d: DocumentRow;
  drafts: DocumentDetail["drafts"];
  open: boolean;
  onClose: () => void;
}) {
  const [revision, setRevision] = useState("");
  const revisions = [
    ...new Set(
      drafts.filter((w) => !["superseded", "withdrawn", "earlier draft"].includes(w.standing)).map((w) => w.revision),
    ),
  ];
  return (
    <WithReason
      title={`Withdraw ${d.number}`}
      verb="Withdraw"
      open={open}
      onClose={onClose}
      send={(reason, key) =>
        api.once(key).post(`/documents/${d.id}/withdrawals`, { reason, revision: revision === "" ? null : revision })
      }
    >
      <Labelled label="What is withdrawn">
        <select className="field" value={revision} onChange={(e) => setRevision(e.target.value)}>
          <option value="">the whole document</option>
          {revisions.map((r) => (
            <option key={r} value={r}>
              revision {r}
            </option>
          ))}
        </select>
      </Labelled>
      <p className="mb-3">
        It must not be used any more. Whoever got it for use on site, and whoever has it in a package, is told; a
        package on its way goes on without it. Nothing is deleted.
      </p>
    </WithReason>
  );
}

/** Gives a document to another originator. */
export function HandOver({ d, open, onClose }: { d: DocumentRow; open: boolean; onClose: () => void }) {
  const people = usePeople();
  const [to, setTo] = useState("");
  return (
    <WithReason
      title={`Another originator for ${d.number}`}
      verb="Hand over"
      open={open}
      onClose={onClose}
      ready={to !== ""}
      send={(reason, key) => api.once(key).post(`/documents/${d.id}/originator`, { to, reason })}
    >
      <Labelled label="To">
        <PersonSelect
          people={[...people.values()].filter((x) => x.id !== d.originator)}
          nobody="choose"
          value={to}
          onChange={setTo}
        />
      </Labelled>
    </WithReason>
  );
}

function WithReason({
  title,
  verb,
  open,
  ready = true,
  onClose,
  send,
  children,
}: {
  title: string;
  verb: string;
  open: boolean;
  ready?: boolean;
  onClose: () => void;
  send: (reason: string, key: string) => Promise<unknown>;
  children: React.ReactNode;
}) {
  const client = useQueryClient();
  const written = useKept(title, "");
  const reason = written.value;
  const acting = useAct(async (key) => {
    await send(reason, key);
    written.discard();
    await client.invalidateQueries();
    onClose();
  });
  return (
    <SideSheet title={title} open={open} onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void acting.run();
        }}
      >
        {children}
        <Labelled label="Reason, for the record and for whoever is told">
          <textarea
            className="field"
            rows={3}
            maxLength={4000}
            value={reason}
            onChange={(e) => written.set(e.target.value)}
          />
        </Labelled>
        <Fault>{acting.fault}</Fault>
        <Button look="main" type="submit" disabled={acting.isBusy || !ready || !reason.trim()}>
          {verb}
        </Button>
      </form>
    </SideSheet>
  );
}
