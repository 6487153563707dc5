import { useQuery } from "@tanstack/react-query";
import { Folder, FolderOpen } from "lucide-react";
import { api } from "../api/client";

/** The register's folders; picking one shows what is filed in it and beneath. */
export function FolderTree({ picked, onPick }: { picked: string; onPick: (path: string) => void }) {
  const { data } = useQuery({ queryKey: ["folders"], queryFn: () => api.get("/folders") });
  if (!data || data.length < 2) return null;
  return (
    <nav aria-label="Folders" className="w-[196px] shrink-0 overflow-y-auto border-r border-rule py-2">
      {data.map((f) => {
        const names = f.path === "" ? ["The register"] : f.path.split(" / ");
        const isPicked = f.path === picked;
        const Sign = isPicked ? FolderOpen : Folder;
        return (
          <button
            key={f.path}
            type="button"
            aria-current={isPicked}
            title={f.path}
            className={`flex w-full items-center gap-1.5 py-1 pr-2 text-left ${isPicked ? "bg-picked font-semibold shadow-[inset_3px_0_0_var(--color-spruce)]" : "hover:bg-[#edeae0]"}`}
            style={{ paddingLeft: 12 + (f.path === "" ? 0 : names.length * 12) }}
            onClick={() => onPick(f.path)}
          >
            <Sign size={14} strokeWidth={1.6} className="shrink-0" aria-hidden />
            <span className="min-w-0 flex-1 truncate">{names.at(-1)}</span>
            {f.documents > 0 && <span className="text-sm font-normal text-soft">{f.documents}</span>}
          </button>
        );
      })}
    </nav>
  );
}
