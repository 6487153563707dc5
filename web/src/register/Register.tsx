import { keepPreviousData, useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Search } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { PlaceBar, useMe } from "../App";
import { api } from "../api/client";
import type { DocumentDetail, DocumentPage } from "../api/types";
import { HistoryList } from "../bench/History";
import { Button, Empty, SideSheet, StandingTag } from "../ui/kit";
import { exactly, when } from "../ui/time";
import { FolderTree } from "./FolderTree";
import { ManyBar } from "./ManyBar";
import { UploadForm } from "./UploadForm";

export function Register() {
  const me = useMe();
  const { id } = useParams();
  const navigate = useNavigate();
  const [search, setSearch] = useState("");
  const [adding, setAdding] = useState(false);
  const [folder, setFolder] = useState("");
  const [picked, setPicked] = useState<readonly string[]>([]);
  const box = useRef<HTMLInputElement>(null);
  const { data, error, fetchNextPage, hasNextPage } = useInfiniteQuery({
    queryKey: ["documents", search, folder],
    queryFn: ({ pageParam }) =>
      api.get<DocumentPage>(
        `/documents?search=${encodeURIComponent(search)}${folder ? `&folder=${encodeURIComponent(folder)}` : ""}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ""}`,
      ),
    initialPageParam: "",
    getNextPageParam: (last) => last.next ?? undefined,
    meta: { saysItself: true },
    placeholderData: keepPreviousData,
  });
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key !== "/" || (e.target as HTMLElement).closest("input,textarea")) return;
      e.preventDefault();
      box.current?.focus();
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
  const rows = data?.pages.flatMap((p) => p.rows) ?? [];
  return (
    <>
      <PlaceBar title="Register" beside={data && `${rows.length}${hasNextPage ? "+" : ""} documents`}>
        <label className="relative">
          <Search size={15} className="absolute top-2 left-2.5 text-soft" />
          <input
            ref={box}
            className="field w-72 !pl-8"
            placeholder="Find a number, a title, a person"
            aria-label="Find in the register"
            value={search}
            onChange={(e) => setSearch(e.target.value)}
          />
        </label>
        {me.canSend && (
          <Button look="main" onClick={() => setAdding(true)}>
            Register a document
          </Button>
        )}
      </PlaceBar>
      <main className="flex min-h-0 flex-1">
        <FolderTree
          picked={folder}
          onPick={(f) => {
            setFolder(f);
            setPicked([]);
          }}
        />
        <div className="min-w-0 flex-1 overflow-auto" tabIndex={-1}>
          <ManyBar picked={rows.filter((d) => picked.includes(d.id))} onClear={() => setPicked([])} />
          {!data && error && <Empty title="The register could not be fetched">{error.message}</Empty>}
          {data && rows.length === 0 && (
            <Empty title={search ? `Nothing matches “${search}”` : "The register is empty"}>
              {search
                ? "Look for a part of a number, a title or a name."
                : "Register a document by uploading its first draft."}
            </Empty>
          )}
          {rows.length > 0 && (
            <table className="w-full border-collapse">
              <thead>
                <tr className="sticky top-0 z-10 bg-ground text-left shadow-[0_1px_0_var(--color-rule)]">
                  <th scope="col" className="w-8 pl-3">
                    <input
                      type="checkbox"
                      className="accent-spruce"
                      aria-label="Pick all shown"
                      checked={picked.length > 0 && rows.every((d) => picked.includes(d.id))}
                      onChange={(e) => setPicked(e.target.checked ? rows.map((d) => d.id) : [])}
                    />
                  </th>
                  {(id
                    ? ["Number", "Title", "Revision", "Standing", "Changed"]
                    : ["Number", "Title", "Discipline", "Revision", "Standing", "Originator", "Changed"]
                  ).map((h) => (
                    <th key={h} scope="col" className="label px-3 py-2">
                      {h}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows.map((d) => (
                  <tr
                    key={d.id}
                    aria-selected={d.id === id}
                    className={`h-8 border-b border-rule ${d.id === id ? "bg-picked" : "hover:bg-[#edeae0]"}`}
                  >
                    <td className="pl-3">
                      <input
                        type="checkbox"
                        className="accent-spruce"
                        aria-label={`Pick ${d.number}`}
                        checked={picked.includes(d.id)}
                        onChange={() =>
                          setPicked(picked.includes(d.id) ? picked.filter((x) => x !== d.id) : [...picked, d.id])
                        }
                      />
                    </td>
                    <td className="px-3 font-mono text-sm whitespace-nowrap">
                      <Link className="hover:underline" to={`/register/${d.id}`}>
                        {d.number}
                      </Link>
                    </td>
                    <td className="w-full max-w-0 truncate px-3" title={d.title}>
                      <Link className="font-medium hover:underline" to={`/register/${d.id}`} tabIndex={-1}>
                        {d.title}
                      </Link>
                    </td>
                    {!id && <td className="px-3">{d.discipline}</td>}
                    <td className="px-3 font-mono text-sm whitespace-nowrap">
                      {d.revision}
                      <span className="text-soft">.{d.ordinal}</span>
                    </td>
                    <td className="px-3">
                      <StandingTag standing={d.standing === "in work" && d.stage ? d.stage : d.standing} />
                    </td>
                    {!id && <td className="px-3 whitespace-nowrap">{d.originatorName}</td>}
                    <td className="px-3 whitespace-nowrap text-soft">{when(d.changedAt)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {hasNextPage && (
            <div className="p-4 text-center">
              <Button onClick={() => void fetchNextPage()}>Show more</Button>
            </div>
          )}
        </div>
        {id && <DocumentSide key={id} id={id} onClose={() => void navigate("/register")} />}
      </main>
      <SideSheet title="Register a document" open={adding} onClose={() => setAdding(false)}>
        <UploadForm
          folder={folder}
          onDone={(document) => {
            setAdding(false);
            void navigate(`/register/${document}`);
          }}
        />
      </SideSheet>
    </>
  );
}

function DocumentSide({ id, onClose }: { id: string; onClose: () => void }) {
  const me = useMe();
  const [adding, setAdding] = useState(false);
  const { data, error } = useQuery({
    queryKey: ["document", id],
    queryFn: () => api.get<DocumentDetail>(`/documents/${id}`),
    meta: { saysItself: true },
  });
  if (!data)
    return (
      <aside className="w-[400px] shrink-0 border-l border-rule bg-raised">
        {error && <Empty title="This document could not be fetched">{error.message}</Empty>}
      </aside>
    );
  const { document: d, drafts, history, packages } = data;
  const open = d.standing === "in work" || d.standing === "returned";
  const canAdd = d.originator === me.id && d.standing !== "in review";
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
        </div>
        <h2 className="mt-1 text-xl leading-snug font-semibold">{d.title}</h2>
        <p className="mb-3 text-soft">
          {d.kind}, {d.discipline}
          {d.folder && ` · ${d.folder}`}
        </p>
        <Link to={`/register/${d.id}/read`} aria-label={`Read ${d.number}`}>
          <img
            src={`/api/drafts/${d.draft}/sheets/0/picture`}
            alt={`Sheet of ${d.number}`}
            className="w-full border border-rule bg-white"
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
                <span className="text-sm text-soft" title={exactly(w.uploadedAt)}>
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
        <h3 className="label mt-4 mb-1">History</h3>
        <HistoryList entries={history} />
      </div>
      <div className="flex gap-2 border-t border-rule p-4">
        {canAdd && (
          <Button look="main" onClick={() => setAdding(true)}>
            {open ? `Upload draft ${d.revision}.${d.ordinal + 1}` : "Start the next revision"}
          </Button>
        )}
        {open && d.originator === me.id && (
          <Link
            to={`/send?document=${d.id}`}
            className="inline-flex items-center rounded-[5px] border border-[#c9c4b5] px-3 font-medium hover:bg-white"
          >
            Send for review
          </Link>
        )}
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
    </aside>
  );
}
