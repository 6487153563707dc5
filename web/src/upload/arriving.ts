import { steadily } from "../api/again";
import { api } from "../api/client";
import type { FileMatch, UploadState } from "../api/types";
import { tell } from "../ui/announce";
import { named, pathOf } from "./named";
import { AGAIN, sendAndRead } from "./sending";

export type Kind = "drawing" | "model" | "supporting file";

/** One of several files on its way into the register. */
export type Arriving = {
  id: number;
  file: File;
  /** Of its bytes, from 0 to 1, that have been sent. */
  share: number;
  state: UploadState | null;
  /** What is wrong with it; null when nothing is known to be. */
  fault: string | null;
  /** Why it could not be registered with the others; forgotten once anything is changed. */
  refusal: string | null;
  /** Whether sending it again may help. */
  canRetry: boolean;
  match: FileMatch | null;
  /** Whether somebody has said which document it is, its number or its title: then none of these is filled in any more. */
  isEdited: boolean;
  /** Whether somebody has said its kind or its discipline, or its folder has: then these are not filled in any more. */
  isSorted: boolean;
  number: string;
  title: string;
  kind: Kind;
  discipline: string;
};

/** How many files are sent at once; more would only wait for one another. */
const AT_ONCE = 3;

const drawings = /\.(dxf|pdf|svg|tiff?)$/i;

/** Whether a file was read as a model: what it covers has three extents. */
export const isModel = (state: UploadState | null) => state?.report?.leaves[0]?.extents.length === 6;

/** Files that are nothing by themselves but parts of models: they are sent first, so that they are there when those are read. */
const parts = /\.(bin|mtl)$/i;

/** Which of the files another one of them consists of and that nobody could look at alone: they go with it, and are no document. */
export function goesInto(row: Arriving, rows: readonly Arriving[]): Arriving | undefined {
  if (row.state?.state !== "read" || row.state.report!.leaves.length > 0) return undefined;
  const name = row.file.name.toLowerCase();
  return rows.find((r) => r.state?.report?.beside?.some((b) => b.isThere && b.name.toLowerCase() === name));
}

/** The files that one consists of and that are neither here nor in the register. */
export const lacking = (row: Arriving, rows: readonly Arriving[]): string[] =>
  (row.state?.report?.beside ?? [])
    .filter((b) => !b.isThere && !rows.some((r) => r.file.name.toLowerCase() === b.name.toLowerCase()))
    .map((b) => b.name);

/** Folders of a file within the one that was dropped, the innermost last. */
const foldersOf = (file: File): string[] => pathOf(file).split("/").slice(1, -1);

/** Files that are sent, read and matched to documents; the page listens and draws. */
export class Arrivals {
  rows: readonly Arriving[] = [];
  private readonly stops = new Map<number, AbortController>();
  private readonly listeners = new Set<() => void>();
  private waiting: number[] = [];
  private running = 0;
  private last = 0;

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly now = () => this.rows;

  add(files: readonly File[], discipline: string) {
    const fresh = files.map(named).map((file): Arriving => {
      const folders = foldersOf(file);
      return {
        id: ++this.last,
        file,
        share: 0,
        state: null,
        fault: null,
        refusal: null,
        canRetry: false,
        match: null,
        isEdited: false,
        isSorted: (folders[folders.length - 1] ?? discipline) !== "",
        number: "",
        title: "",
        kind: drawings.test(file.name) ? "drawing" : "supporting file",
        discipline: folders[folders.length - 1] ?? discipline,
      };
    });
    this.set([...this.rows, ...fresh]);
    void this.match(fresh);
    const first = fresh.filter((r) => parts.test(r.file.name));
    this.waiting.push(...[...first, ...fresh.filter((r) => !first.includes(r))].map((r) => r.id));
    this.next();
  }
  change(id: number, what: Partial<Arriving>) {
    this.set(this.rows.map((r) => (r.id === id ? { ...r, ...what } : r)));
  }
  /** What somebody changes in the table: what was wrong with any of them may be right by that. */
  edit(ids: number | readonly number[], what: Partial<Arriving>) {
    const changed = new Set(typeof ids === "number" ? [ids] : ids);
    const names = what.number !== undefined || what.title !== undefined || what.match !== undefined;
    const sorts = what.kind !== undefined || what.discipline !== undefined;
    this.set(
      this.rows.map((r) =>
        changed.has(r.id)
          ? { ...r, refusal: null, ...what, isEdited: r.isEdited || names, isSorted: r.isSorted || sorts }
          : r.refusal === null
            ? r
            : { ...r, refusal: null },
      ),
    );
  }
  /** What the server says is wrong, by their places in the table. */
  refuse(faults: readonly { row: number; words: string }[]) {
    this.set(this.rows.map((r, i) => ({ ...r, refusal: faults.find((f) => f.row === i)?.words ?? null })));
  }
  /** Takes a file out; what is on its way is cut off. */
  remove(id: number) {
    this.stops.get(id)?.abort();
    this.waiting = this.waiting.filter((w) => w !== id);
    this.set(this.rows.filter((r) => r.id !== id).map((r) => ({ ...r, refusal: null })));
  }
  retry(id: number) {
    this.change(id, { fault: null, canRetry: false, share: 0, state: null });
    this.waiting.push(id);
    this.next();
  }
  stopAll() {
    for (const stop of this.stops.values()) stop.abort();
    this.waiting = [];
    this.set([]);
  }

  /** Which documents files are of: by their names at once, by their title blocks as well when they are read. */
  private async match(files: readonly Arriving[]) {
    try {
      const asked = files.map((r) => ({ name: r.file.name, upload: r.state?.id ?? null }));
      const whole = new AbortController().signal;
      const found = await steadily(() => api.post("/uploads/matches", { files: asked }), whole, AGAIN);
      files.forEach(({ id }, i) => {
        const match = found[i]!;
        const now = this.rows.find((r) => r.id === id);
        if (now && !now.isEdited) this.change(id, { ...filledIn(now, match) });
      });
    } catch (e) {
      for (const r of files) this.change(r.id, { fault: (e as Error).message });
    }
  }

  private next() {
    while (this.running < AT_ONCE && this.waiting.length > 0) {
      const id = this.waiting.shift()!;
      this.running++;
      void this.send(id).finally(() => {
        this.running--;
        this.next();
      });
    }
  }

  private async send(id: number) {
    const stop = new AbortController();
    this.stops.set(id, stop);
    const find = () => this.rows.find((r) => r.id === id);
    const row = find();
    if (!row) return;
    try {
      const state = await sendAndRead(
        row.file,
        (share) => this.change(id, { share }),
        (now) => this.change(id, { share: 1, state: now }),
        stop.signal,
      );
      this.change(id, {
        state,
        share: 1,
        fault: state.state === "refused" ? (state.fault ?? "The file could not be read.") : null,
        // What a file holds tells its kind, whatever its name or what stands next to its number.
        ...(isModel(state) ? { kind: "model" as const } : {}),
        ...(state.report && state.report.leaves.length === 0 ? { kind: "supporting file" as const } : {}),
      });
      const read = find();
      if (read && state.report?.titleBlock) await this.match([read]);
    } catch (e) {
      if (!stop.signal.aborted) this.change(id, { fault: (e as Error).message, canRetry: true, share: 0 });
    }
  }

  private set(rows: readonly Arriving[]) {
    this.rows = rows;
    for (const listener of this.listeners) listener();
  }
}

/** What a match fills in that nobody has said. */
export function filledIn(row: Arriving, match: FileMatch): Partial<Arriving> {
  const kind = match.kind === "drawing" || match.kind === "supporting file" ? match.kind : row.kind;
  return {
    match,
    number: match.number,
    title: match.title,
    ...(row.isSorted
      ? {}
      : {
          // What cannot be shown travels along, whatever stands next to it.
          kind:
            row.state?.report?.leaves.length === 0
              ? ("supporting file" as const)
              : isModel(row.state)
                ? ("model" as const)
                : kind,
          discipline: match.discipline ?? row.discipline,
        }),
  };
}

/** The files of what was dropped, folders walked through; says which cannot be read. */
export async function filesOf(transfer: DataTransfer): Promise<File[]> {
  // Entries must be taken at once: the browser forgets them when the event is over.
  const entries = [...transfer.items].map((i) => i.webkitGetAsEntry()).filter((e) => e !== null);
  if (entries.length === 0) return [...transfer.files];
  const files: File[] = [];
  const unread: string[] = [];
  // One that this person may not read, or that is gone by now, holds up none of the others.
  const reached = (entry: FileSystemEntry) => walk(entry).catch(() => void unread.push(entry.fullPath.slice(1)));
  const walk = async (entry: FileSystemEntry): Promise<void> => {
    if (entry.isFile) {
      const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
      files.push(Object.assign(file, { fromPath: entry.fullPath.slice(1) }));
      return;
    }
    const reader = (entry as FileSystemDirectoryEntry).createReader();
    for (;;) {
      const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
      if (some.length === 0) return;
      for (const one of some) await reached(one);
    }
  };
  for (const entry of entries) await reached(entry);
  if (unread.length > 0) tell(`This could not be read, and is left out: ${someOf(unread)}.`);
  // What systems leave behind in folders is nobody's document.
  return files.filter((f) => !f.name.startsWith(".") && f.name !== "Thumbs.db");
}

const someOf = (paths: readonly string[]) =>
  `${paths.slice(0, 3).join(", ")}${paths.length > 3 ? ` and ${paths.length - 3} more` : ""}`;
