import { useQuery } from "@tanstack/react-query";
import { ChevronDown, ChevronRight, Folder, FolderOpen } from "lucide-react";
import { useState } from "react";
import { api } from "../api/client";
import type { FolderRow } from "../api/types";

/** The folders in one folder; the register's own level begins with the register itself. */
export function useFolders(path: string, wanted = true) {
  return useQuery({
    queryKey: ["folders", "in", path],
    queryFn: () => api.get("/folders", { in: path }),
    enabled: wanted,
  });
}

type Props = {
  picked: string;
  onPick: (path: string) => void;
  /** What stands at a folder's right. */
  beside?: (folder: FolderRow) => string;
};

/** The register's folders, level by level; picking one shows what is filed in it and beneath. */
export function FolderTree({ picked, onPick }: { picked: string; onPick: (path: string) => void }) {
  const { data } = useFolders("");
  if (data && data.length < 2) return null;
  return (
    // Its room is kept while the folders come, so that the list beside does not jump.
    <nav
      aria-label="Folders"
      aria-busy={!data}
      className="w-[196px] shrink-0 overflow-y-auto border-r border-rule py-2 max-[700px]:hidden"
    >
      <FolderLevel
        path=""
        depth={0}
        picked={picked}
        onPick={onPick}
        beside={(f) => (f.documents > 0 ? String(f.documents) : "")}
      />
    </nav>
  );
}

/** One level of folders and, where they are open, what is in them. */
export function FolderLevel({ path, depth, picked, onPick, beside }: Props & { path: string; depth: number }) {
  const { data } = useFolders(path);
  return (
    <>
      {data?.map((f) => (
        <Branch key={f.path} folder={f} depth={f.path === "" ? 0 : depth + 1} {...{ picked, onPick, beside }} />
      ))}
    </>
  );
}

function Branch({ folder, depth, picked, onPick, beside }: Props & { folder: FolderRow; depth: number }) {
  const isRoot = folder.path === "";
  const leadsToPicked = picked.startsWith(`${folder.path} / `);
  const [open, setOpen] = useState<boolean | null>(null);
  const isOpen = open ?? leadsToPicked;
  const isPicked = folder.path === picked;
  const name = isRoot ? "The register" : folder.path.split(" / ").at(-1)!;
  const Sign = isPicked ? FolderOpen : Folder;
  const canOpen = folder.hasInner && !isRoot;
  const Turn = isOpen ? ChevronDown : ChevronRight;
  return (
    <>
      <div
        className={`flex w-full items-center pr-2 ${isPicked ? "bg-picked font-semibold shadow-[inset_3px_0_0_var(--color-spruce)]" : "hover:bg-hover"}`}
        style={{ paddingLeft: 4 + depth * 12 }}
      >
        {canOpen ? (
          <button
            type="button"
            aria-label={`${isOpen ? "Close" : "Open"} ${name}`}
            aria-expanded={isOpen}
            className="grid h-6 w-6 shrink-0 place-items-center rounded text-soft hover:bg-picked"
            onClick={() => setOpen(!isOpen)}
          >
            <Turn size={13} aria-hidden />
          </button>
        ) : (
          <span className="w-6 shrink-0" />
        )}
        <button
          type="button"
          aria-current={isPicked}
          title={folder.path}
          className="flex min-w-0 flex-1 items-center gap-1.5 py-1 text-left"
          onClick={() => {
            onPick(folder.path);
            if (canOpen) setOpen(true);
          }}
          onKeyDown={(e) => {
            if (canOpen && (e.key === "ArrowRight" || e.key === "ArrowLeft")) setOpen(e.key === "ArrowRight");
          }}
        >
          <Sign size={14} strokeWidth={1.6} className="shrink-0" aria-hidden />
          <span className="min-w-0 flex-1 truncate">{name}</span>
          <span className="text-sm font-normal text-soft">{beside?.(folder)}</span>
        </button>
      </div>
      {canOpen && isOpen && <FolderLevel path={folder.path} depth={depth} {...{ picked, onPick, beside }} />}
    </>
  );
}
