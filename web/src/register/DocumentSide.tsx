import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api } from "../api/client";
import type { DocumentDetail } from "../api/types";
import { PinButton } from "../kept/PinButton";
import { useVisit } from "../kept/useRecent";
import { HistoryList } from "../slip/History";
import { Button, StandingTag } from "../ui/kit";
import { Awaited } from "../ui/Awaited";
import { SideSheet } from "../ui/SideSheet";
import { exactlyThere, when } from "../ui/time";
import { togetherWords } from "../upload/ReadReport";
import { UploadForm } from "../upload/UploadForm";
import { HandOver, Withdrawal } from "./Withdrawal";
import { picturePath } from "../viewer/picturePath";

/** A document beside the list: its newest sheet, drafts, packages and history. */
export function DocumentSide({ id, onClose }: { id: string; onClose: () => void }) {
  const document = useQuery({
    queryKey: ["document", id],
    queryFn: () => api.get(`/documents/${id}`),
    meta: { saysItself: true },
  });
  if (document.data) return <Loaded key={id} data={document.data} onClose={onClose} />;
  return (
    <aside className="w-[400px] shrink-0 border-l border-rule bg-raised">
      <Awaited what="the document" of={document} />
    </aside>
  );
}

function Loaded({ data, onClose }: { data: DocumentDetail; onClose: () => void }) {
  const [doing, setDoing] = useState<"withdraw" | "handOver" | null>(null);
  const [adding, setAdding] = useState(false);
  const { document: d, drafts, history, packages, may } = data;
  useVisit(`/register/${d.id}`, d.title, d.number);
  const open = d.standing === "in work" || d.standing === "returned";
  return (
    <aside
      aria-label={`${d.number} ${d.title}`}
      className="flex w-[400px] shrink-0 flex-col border-l border-rule bg-raised"
    >
      <div className="flex-1 overflow-y-auto p-4">
        <div className="flex items-center gap-2">
          <span className="font-mono">{d.number}</span>
          <span className="font-mono text-soft">
            {d.revision}.{d.ordinal}
          </span>
          <span className="ml-auto">
            <StandingTag standing={d.standing === "in work" && d.stage ? d.stage : d.standing} />
          </span>
          <PinButton kind="document" id={d.id} name={d.number} />
        </div>
        <h2 className="mt-1 text-xl leading-snug font-semibold">{d.title}</h2>
        <p className="mb-3 text-soft">
          {d.kind}, {d.discipline}
          {d.folder && ` · ${d.folder}`}
        </p>
        <Link to={`/register/${d.id}/read`} aria-label={`Read ${d.number}`}>
          <img
            src={picturePath(d.draft, 0)}
            alt={`Sheet of ${d.number}`}
            className="aspect-[1.414] w-full border border-rule bg-paper object-contain"
          />
        </Link>
        <h3 className="label mt-4 mb-1">Drafts</h3>
        <ul>
          {drafts.map((w) => (
            <li key={w.id} className="flex items-baseline gap-3 border-b border-dotted border-rule py-1.5">
              <span className="w-10 font-mono text-sm font-semibold">
                {w.revision}.{w.ordinal}
              </span>
              <span className="min-w-0 flex-1">
                <a
                  className="block truncate underline decoration-rule underline-offset-2"
                  href={`/api/drafts/${w.id}/file`}
                  download
                >
                  {w.fileName}
                </a>
                {(w.report.beside?.length ?? 0) > 0 && (
                  <details className="text-sm">
                    <summary className="text-soft">{togetherWords(w.report.beside!)}</summary>
                    <ul>
                      {w.report.beside!.map(({ name, isThere }) => (
                        <li key={name} className={`truncate ${isThere ? "" : "text-rust"}`} title={name}>
                          {isThere ? (
                            <a
                              className="underline"
                              href={`/api/drafts/${w.id}/beside/${encodeURIComponent(name)}`}
                              download
                            >
                              {name}
                            </a>
                          ) : (
                            `${name}: missing`
                          )}
                        </li>
                      ))}
                    </ul>
                  </details>
                )}
                <span className="text-sm text-soft" title={exactlyThere(w.uploadedAt)}>
                  {w.uploadedBy}, {when(w.uploadedAt)} ·{" "}
                  <span className="font-mono" title={`SHA-256 ${w.sha256}`}>
                    {w.sha256.slice(0, 8)}
                  </span>
                </span>
              </span>
              <span className="text-sm text-soft">{w.standing}</span>
            </li>
          ))}
        </ul>
        {packages.length > 0 && <h3 className="label mt-4 mb-1">Packages</h3>}
        {packages.map((p) => (
          <Link
            key={p.id}
            to={`/packages/${p.id}`}
            className="flex items-center gap-2 border-b border-dotted border-rule py-1.5 hover:bg-picked"
          >
            <span className="font-mono text-sm">{p.number}</span>
            <span className="min-w-0 flex-1 truncate">{p.title}</span>
            <StandingTag standing={p.standing} />
          </Link>
        ))}
        <h3 className="label mt-4 mb-1">Ledger</h3>
        <HistoryList entries={history} />
        {data.historyGoesOn && (
          <p className="py-2 text-soft">
            These are the newest {history.length}.{" "}
            <Link to={`/ledger?search=${encodeURIComponent(d.number)}`} className="underline">
              What was done to the document before
            </Link>{" "}
            is in the ledger, and so is each of its packages.
          </p>
        )}
      </div>
      <div className="flex flex-wrap gap-2 border-t border-rule p-4">
        {may.upload && (
          <Button look="main" onClick={() => setAdding(true)}>
            {open ? `Upload draft ${d.revision}.${d.ordinal + 1}` : "Start the next revision"}
          </Button>
        )}
        {may.send && (
          <Link
            to={`/send?document=${d.id}`}
            className="inline-flex items-center rounded-[5px] border border-edge px-3 font-medium hover:bg-lit"
          >
            Send for review
          </Link>
        )}
        {may.withdraw && <Button onClick={() => setDoing("withdraw")}>Withdraw</Button>}
        {may.handOver && <Button onClick={() => setDoing("handOver")}>Another originator</Button>}
        <Button look="quiet" className="ml-auto" onClick={onClose}>
          Close
        </Button>
      </div>
      <SideSheet
        title={open ? `Next draft of ${d.number}` : `Next revision of ${d.number}`}
        open={adding}
        onClose={() => setAdding(false)}
      >
        <UploadForm document={d} onDone={() => setAdding(false)} />
      </SideSheet>
      <Withdrawal d={d} drafts={drafts} open={doing === "withdraw"} onClose={() => setDoing(null)} />
      <HandOver d={d} open={doing === "handOver"} onClose={() => setDoing(null)} />
    </aside>
  );
}
