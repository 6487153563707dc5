import { useQuery, useQueryClient } from "@tanstack/react-query";
import { FileUp } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useAct } from "../api/useAct";
import { mayHelpAgain, steadily } from "../api/again";
import { api, Refusal } from "../api/client";
import type { DocumentRow, UploadState } from "../api/types";
import { Button, Fault, Labelled } from "../ui/kit";
import { filesOf, isModel, type Kind } from "./arriving";
import { ReadReport } from "./ReadReport";
import { named } from "./named";
import { AGAIN, sendAndRead } from "./sending";

type Progress = { file: File; share: number; state: UploadState | null };

/** Where a file stands that has arrived. */
const readingWords = (state: UploadState | null) =>
  state?.state === "waiting" && state.place > 1
    ? `Waiting to be read: ${state.place - 1} ${state.place === 2 ? "file" : "files"} before it`
    : "Reading the file …";

/** Uploads a file and registers it: as a new document, or as the next draft of one. */
export function UploadForm({
  document,
  folder = "",
  onMany,
  onDone,
}: {
  document?: Pick<DocumentRow, "id" | "number">;
  /** Where a new document is filed. */
  folder?: string;
  /** Several files were given, which are registered as a table; nothing when only one can be. */
  onMany?: (files: readonly File[]) => void;
  onDone: (document: string) => void;
}) {
  const client = useQueryClient();
  const [progress, setProgress] = useState<Progress | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  /** A file that the line kept from arriving: it need not be chosen again. */
  const [unsent, setUnsent] = useState<File | null>(null);
  const [number, setNumber] = useState("");
  const [title, setTitle] = useState("");
  const [kind, setKind] = useState<Kind>("drawing");
  const [discipline, setDiscipline] = useState("Mechanical");
  const [reason, setReason] = useState("");
  /** What of the file does not go with what it is to become. */
  const [doubt, setDoubt] = useState<string | null>(null);
  const filled = useRef({ number: "", title: "" });
  const folders = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const stop = useRef<AbortController | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  useEffect(() => () => stop.current?.abort(), []);

  /** What the file tells of its document is filled in where nobody has typed. */
  const match = async (file: { name: string; upload?: string }, wanted: AbortSignal) => {
    const files = [{ ...file, document: document?.id ?? null }];
    const [found] = await steadily(() => api.post("/uploads/matches", { files }), wanted, AGAIN);
    setDoubt(
      document
        ? (found?.doubt ?? null)
        : found?.document
          ? `${found.number} is registered already; its next draft is added on its own page.`
          : null,
    );
    setNumber((n) => (n === "" || n === filled.current.number ? (found?.number ?? "") : n));
    setTitle((t) => (t === "" || t === filled.current.title ? (found?.title ?? "") : t));
    filled.current = { number: found?.number ?? "", title: found?.title ?? "" };
  };

  const take = async (given: File | undefined) => {
    if (!given) return;
    const file = named(given);
    stop.current?.abort();
    const mine = new AbortController();
    stop.current = mine;
    setFault(null);
    setUnsent(null);
    setProgress({ file, share: 0, state: null });
    setDoubt(null);
    try {
      await match({ name: file.name }, mine.signal);
      const state = await sendAndRead(
        file,
        (share) => setProgress((p) => p && { ...p, share }),
        (now) => setProgress({ file, share: 1, state: now }),
        mine.signal,
      );
      if (state.state === "refused") throw new Error(state.fault ?? "The file could not be read.");
      setProgress({ file, share: 1, state });
      setKind(isModel(state) ? "model" : "drawing");
      if (state.report?.titleBlock) await match({ name: file.name, upload: state.id }, mine.signal);
    } catch (e) {
      if (mine.signal.aborted && stop.current !== mine) return;
      setProgress(null);
      if (mine.signal.aborted) return;
      setFault((e as Error).message);
      if (e instanceof Refusal && mayHelpAgain(e)) setUnsent(file);
    }
  };

  const registering = useAct(async (key) => {
    const uploadId = progress!.state!.id;
    const made = document
      ? await api.once(key).post(`/documents/${document.id}/drafts`, { upload: uploadId, reason })
      : await api.once(key).post("/documents", {
          number,
          title,
          kind: isShown ? kind : "supporting file",
          discipline,
          upload: uploadId,
          reason,
          folder,
        });
    await client.invalidateQueries({ queryKey: ["documents"] });
    await client.invalidateQueries({ queryKey: ["document", made.document] });
    onDone(made.document);
  });

  const report = progress?.state?.report;
  const isShown = report === undefined || report === null || report.leaves.length > 0;
  const { data: formats } = useQuery({
    queryKey: ["formats"],
    queryFn: () => api.get("/formats"),
    staleTime: Infinity,
  });
  const ready =
    !registering.isBusy && progress?.state?.state === "read" && (document || (number.trim() && title.trim()));
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void registering.run();
      }}
    >
      <div
        className={`mb-3 grid place-items-center border border-dashed px-4 py-6 text-center ${over ? "border-spruce bg-spruce-soft" : "border-edge"}`}
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault();
          setOver(false);
          e.stopPropagation();
          if (onMany)
            void filesOf(e.dataTransfer).then((files) => (files.length > 1 ? onMany(files) : void take(files[0])));
          else void take(e.dataTransfer.files[0]);
        }}
      >
        <FileUp size={22} className="mb-1 text-soft" />
        <input
          ref={picker}
          type="file"
          aria-label="Drawing file"
          className="sr-only"
          multiple={onMany !== undefined}
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            if (onMany && files.length > 1) onMany(files);
            else void take(files[0]);
          }}
        />
        <p>
          Drop a file here, or{" "}
          <button type="button" className="font-medium text-spruce underline" onClick={() => picker.current?.click()}>
            choose {onMany ? "files" : "a file"}
          </button>
        </p>
        {onMany && (
          <p>
            <input
              ref={folders}
              type="file"
              aria-label="Folder of files"
              className="sr-only"
              {...{ webkitdirectory: "" }}
              onChange={(e) => onMany([...(e.target.files ?? [])])}
            />
            Several files, or{" "}
            <button
              type="button"
              className="font-medium text-spruce underline"
              onClick={() => folders.current?.click()}
            >
              a whole folder
            </button>
            , are registered together.
          </p>
        )}
        {formats && (
          <p className="mt-1 text-sm text-soft">
            Froe shows {formats.map((f) => `${f.words} (${f.extensions.join(" ")})`).join(", ")}. Any other file travels
            along as a supporting file.
          </p>
        )}
      </div>
      {progress && (
        <div role="status" className="mb-3 border border-rule bg-ground px-3 py-2">
          <div className="flex justify-between gap-3">
            <b className="truncate font-semibold">{progress.file.name}</b>
            {progress.state?.state !== "read" && (
              <button
                type="button"
                className="underline"
                onClick={() => {
                  stop.current?.abort();
                  setProgress(null);
                }}
              >
                Cancel
              </button>
            )}
          </div>
          {report ? (
            <>
              <ReadReport upload={progress.state!.id} report={report} />
              {doubt && <p className="mt-2 border-t border-rule pt-2 text-ochre">{doubt}</p>}
            </>
          ) : (
            <>
              <p className="text-soft">
                {progress.share < 1 ? `Sending, ${Math.round(progress.share * 100)} %` : readingWords(progress.state)}
              </p>
              <div className="mt-1 h-1 bg-rule">
                <div className="h-1 bg-spruce" style={{ width: `${progress.share * 100}%` }} />
              </div>
            </>
          )}
        </div>
      )}
      {!document && (
        <>
          <Labelled label="Number">
            <input
              className="field font-mono"
              value={number}
              maxLength={40}
              onChange={(e) => setNumber(e.target.value)}
            />
          </Labelled>
          <Labelled label="Title">
            <input className="field" value={title} maxLength={200} onChange={(e) => setTitle(e.target.value)} />
          </Labelled>
          <Labelled label="Kind">
            <select
              className="field"
              value={isShown ? kind : "supporting file"}
              disabled={!isShown}
              onChange={(e) => setKind(e.target.value as typeof kind)}
            >
              <option value="drawing">Drawing</option>
              <option value="model">Model</option>
              <option value="supporting file">Supporting file</option>
            </select>
          </Labelled>
          <Labelled label="Discipline">
            <input
              className="field"
              value={discipline}
              maxLength={60}
              onChange={(e) => setDiscipline(e.target.value)}
            />
          </Labelled>
        </>
      )}
      <Labelled label="Reason, for the record" hint="May be left empty.">
        <input className="field" value={reason} maxLength={400} onChange={(e) => setReason(e.target.value)} />
      </Labelled>
      <Fault>{fault ?? registering.fault}</Fault>
      {unsent && (
        <p className="mb-2">
          <Button onClick={() => void take(unsent)}>Send {unsent.name} again</Button>
        </p>
      )}
      <Button look="main" type="submit" disabled={!ready}>
        {document ? "Add the draft" : "Register the document"}
      </Button>
    </form>
  );
}
