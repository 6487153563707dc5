import { useQuery, useQueryClient } from "@tanstack/react-query";
import { FileOutput } from "lucide-react";
import { useRef, useState } from "react";
import { addressOf, api, sendFile } from "../api/client";
import { download } from "../api/download";
import type { MarkedFileTaken } from "../api/types";
import { useAct } from "../api/useAct";
import { takenWords } from "./taken";
import { BarPopover } from "./BarPopover";
import { CARRIED } from "./OverlaysMenu";
import { clockZone } from "../ui/time";
import { Fault } from "../ui/kit";

type Props = {
  package: string;
  draft: string;
  leaf: number;
  /** Whether what is open can go out with what is drawn on it. */
  isSheet: boolean;
  /** Whether who looks may take in what others wrote on it elsewhere. */
  mayBring: boolean;
  /** How many marks came with the sheet's file. */
  fromFile: number;
  /** Overlays that are not shown: they stay here. */
  hidden: ReadonlySet<string>;
};

const sheets = [
  ["pdf", "PDF, markups as annotations", "Others read, answer and mark it in their own reader"],
  ["flatPdf", "PDF, markups drawn into it", "Nobody can move or take away what was marked"],
  ["xfdf", "Annotations alone (XFDF)", "For somebody who has the PDF"],
  ["svg", "This sheet as SVG", ""],
  ["png", "This sheet as PNG", ""],
] as const;

/** What lies open, with what is drawn on it, as files for others. */
export function FilesMenu(p: Props) {
  const [asPictures, setAsPictures] = useState(false);
  const [making, setMaking] = useState<string | null>(null);
  const { run, isBusy, fault } = useAct(async (_key, path: string) => {
    setMaking(path);
    setAsPictures(await download(path));
  });
  const without = [...p.hidden].filter((id) => /^[0-9a-f-]{36}$/.test(id));
  const marked = (form: string) => {
    const asked = new URLSearchParams({ as: form, leaf: String(p.leaf) });
    for (const id of without) asked.append("without", id);
    if (p.hidden.has(CARRIED)) asked.set("carried", "false");
    return `/api/drafts/${p.draft}/marked?${asked.toString()}`;
  };
  const notes = (ending: "csv" | "xlsx") =>
    addressOf(`/api/packages/${p.package}/notes.${ending}`, { zone: clockZone() });
  const line = (path: string, words: string, more = "") => (
    <button
      key={words}
      type="button"
      className="block w-full rounded px-2 py-1.5 text-left hover:bg-picked disabled:text-soft"
      disabled={isBusy}
      onClick={() => void run(path)}
    >
      {words}
      {isBusy && making === path && <span role="status"> · being made …</span>}
      {more && <span className="block text-sm text-soft">{more}</span>}
    </button>
  );
  return (
    <BarPopover icon={<FileOutput size={15} />} words="Files">
      <p className="label mb-1 px-2">The draft, with the overlays shown</p>
      {p.isSheet ? (
        sheets.map(([form, words, more]) => line(marked(form), words, more))
      ) : (
        <p className="px-2 text-soft">Only sheets go out with what is drawn on them; their notes are in the list.</p>
      )}
      <a className="block rounded px-2 py-1.5 hover:bg-picked" href={`/api/drafts/${p.draft}/file`} download>
        The draft’s own file, as it came
      </a>
      <BesideFiles draft={p.draft} />
      <p className="label mt-3 mb-1 px-2">All of the package</p>
      {line(
        addressOf(`/api/packages/${p.package}/review-sheet`, { zone: clockZone() }),
        "As a review sheet (PDF)",
        "Every sheet, then what was said and decided",
      )}
      {line(notes("csv"), "Its notes as a list (CSV)")}
      {line(notes("xlsx"), "Its notes as a workbook (XLSX)")}
      {p.isSheet && p.mayBring && <BringIn draft={p.draft} fromFile={p.fromFile} />}
      {asPictures && (
        <p role="status" className="mt-2 px-2 text-soft">
          Its pages are pictures: the draft’s own file is encrypted or damaged, and takes nothing more.
        </p>
      )}
      <Fault>{fault}</Fault>
    </BarPopover>
  );
}

/** The other files that a model consists of: each as it was read, and those that are missing. */
function BesideFiles({ draft }: { draft: string }) {
  const { data = [] } = useQuery({ queryKey: ["beside", draft], queryFn: () => api.get(`/drafts/${draft}/beside`) });
  if (data.length === 0) return null;
  return (
    <>
      <p className="label mt-2 px-2">Files it is put together from</p>
      <ul className="max-h-48 overflow-y-auto px-2">
        {data.map(({ name, isThere, from }) => (
          <li key={name} className="py-1">
            {isThere ? (
              <a
                className="block truncate underline"
                href={`/api/drafts/${draft}/beside/${encodeURIComponent(name)}`}
                download
              >
                {name}
              </a>
            ) : (
              <span className="block truncate text-rust">{name}: missing</span>
            )}
            {from && (
              <span className="block text-sm text-soft">
                from {from.number}, draft {from.label}
              </span>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

/** Takes in a file that somebody marked elsewhere: answers go under their notes, the rest becomes remarks and markups. */
function BringIn({ draft, fromFile }: { draft: string; fromFile: number }) {
  const client = useQueryClient();
  const field = useRef<HTMLInputElement>(null);
  const [share, setShare] = useState<number | null>(null);
  const [taken, setTaken] = useState<MarkedFileTaken | null>(null);
  const { run, isBusy, fault } = useAct(async (key, file: File | null) => {
    setTaken(null);
    setShare(file && 0);
    const { signal } = new AbortController();
    const answer = file
      ? await sendFile<MarkedFileTaken>(`/drafts/${draft}/brought?key=${key}`, file, setShare, signal)
      : await api.once(key).post(`/drafts/${draft}/brought/own`);
    await client.invalidateQueries({ queryKey: ["package"] });
    await client.invalidateQueries({ queryKey: ["overlay", draft] });
    // Once it is said what came of it, the next file is taken: until then one would be passed over.
    setTaken(answer);
  });
  return (
    <>
      <p className="label mt-3 mb-1 px-2">What others marked in it</p>
      <input
        ref={field}
        type="file"
        className="hidden"
        accept=".pdf,.xfdf"
        aria-label="A marked file to be brought in"
        onChange={(e) => {
          const file = e.target.files?.[0];
          // The same file can be chosen again.
          e.target.value = "";
          if (file) void run(file);
        }}
      />
      <button
        type="button"
        className="block w-full rounded px-2 py-1.5 text-left hover:bg-picked disabled:text-soft"
        disabled={isBusy}
        onClick={() => field.current?.click()}
      >
        Bring a marked PDF or XFDF in …
        <span className="block text-sm text-soft">Answers go under their notes; nothing comes twice</span>
      </button>
      {fromFile > 0 && (
        <button
          type="button"
          className="block w-full rounded px-2 py-1.5 text-left hover:bg-picked disabled:text-soft"
          disabled={isBusy}
          onClick={() => void run(null)}
        >
          Take up what came with the file
          <span className="block text-sm text-soft">As remarks and markups that can be answered and settled</span>
        </button>
      )}
      {isBusy && (
        <p role="status" className="px-2 text-soft">
          {share !== null && share < 1 ? `Sending, ${Math.round(share * 100)} %` : "Being read …"}
        </p>
      )}
      {taken && (
        <p role="status" className="px-2">
          {takenWords(taken)}
        </p>
      )}
      <Fault>{fault}</Fault>
    </>
  );
}
