import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { addressOf, api } from "../../api/client";
import { download } from "../../api/download";
import { useAct } from "../../api/useAct";
import { Button, Fault } from "../../ui/kit";
import { SignButton } from "../../ui/SignButton";
import { gramsWords } from "./exact";

type Props = {
  draft: string;
  position: number;
  picked: readonly number[];
  /** What somebody says that parts weigh, g/cm³, as it is asked with. */
  densities: string;
  onPick: (components: readonly number[]) => void;
  onClose: () => void;
};

/** How deep a parts list goes. */
type PartsListDepth = "levels" | "top" | "parts";
const depths: readonly (readonly [PartsListDepth, string])[] = [
  ["levels", "Level by level"],
  ["top", "Top level"],
  ["parts", "Parts alone"],
];
/** Rows shown at once; what is beyond is asked for. */
const MOST_ROWS = 300;

/** The parts list of a model beside it: what is picked in one is picked in the other. */
export function PartsTable({ draft, position, picked, densities, onPick, onClose }: Props) {
  const [depth, setDepth] = useState<PartsListDepth>("levels");
  const [most, setMost] = useState(MOST_ROWS);
  const { data, error, refetch } = useQuery({
    queryKey: ["parts", draft, position, depth, densities],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${position}/parts`, { depth, densities }),
    staleTime: Infinity,
    placeholderData: (was) => was,
    meta: { saysItself: true },
  });
  const file = useAct(async (_key, ending: "csv" | "xlsx") => {
    await download(addressOf(`/api/drafts/${draft}/leaves/${position}/parts.${ending}`, { depth, densities }));
  });
  const rows = data ?? [];
  const hasNumbers = rows.some((r) => r.number !== "");
  const those = new Set(picked);
  const isPicked = (components: readonly number[]) => components.some((c) => those.has(c));
  const body = useRef<HTMLTableSectionElement>(null);
  const first = rows.findIndex((r) => isPicked(r.components));
  useEffect(() => {
    body.current?.rows[first]?.scrollIntoView({ block: "nearest" });
  }, [first]);
  return (
    <section
      aria-label="Parts list"
      className="flex h-[42%] min-h-40 shrink-0 flex-col border-t border-rule bg-raised"
      onKeyDown={(e) => {
        if (e.key === "Escape") onClose();
      }}
    >
      <div className="flex items-center gap-1 border-b border-rule px-3 py-1">
        <h2 className="label mr-1 whitespace-nowrap">Parts list</h2>
        <select
          aria-label="How deep"
          className="field max-w-36 min-w-0 py-1"
          value={depth}
          onChange={(e) => setDepth(e.target.value as PartsListDepth)}
        >
          {depths.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
        <span className="flex-1" />
        <Button className="px-2!" disabled={file.isBusy} onClick={() => void file.run("csv")}>
          CSV
        </Button>
        <Button className="px-2!" disabled={file.isBusy} onClick={() => void file.run("xlsx")}>
          XLSX
        </Button>
        <SignButton words="Close the parts list" onClick={onClose}>
          <X size={15} />
        </SignButton>
      </div>
      {file.fault && <Fault>{file.fault}</Fault>}
      {error ? (
        <p role="alert" className="p-4">
          {error.message}{" "}
          <button type="button" className="underline" onClick={() => void refetch()}>
            Load again
          </button>
        </p>
      ) : !data ? (
        <p role="status" className="p-4 text-soft">
          Listing …
        </p>
      ) : (
        <div className="min-h-0 flex-1 overflow-auto">
          <table className="w-full text-sm">
            <thead className="sticky top-0 bg-raised text-left">
              <tr className="border-b border-ink">
                {["Item", "", ...(hasNumbers ? ["Number"] : []), "Name", "Qty", "Material", "Mass"].map((h, i) => (
                  <th
                    key={i}
                    scope="col"
                    className={`label px-2 py-1 ${h === "Qty" || h === "Mass" ? "text-right" : ""}`}
                  >
                    {h || <span className="sr-only">Picture</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody ref={body}>
              {rows.slice(0, most).map((r) => (
                <tr
                  key={r.item}
                  className={`border-b border-rule ${isPicked(r.components) ? "bg-picked" : "hover:bg-hover"}`}
                >
                  <td className="px-2 font-mono text-xs" style={{ paddingLeft: 8 + (r.level - 1) * 12 }}>
                    {r.item}
                  </td>
                  <td className="w-10">
                    {r.part !== null && (
                      <img
                        alt=""
                        loading="lazy"
                        width={40}
                        height={30}
                        className="h-[30px] w-10 object-contain"
                        src={`/api/drafts/${draft}/leaves/${position}/parts/${r.part}/picture`}
                      />
                    )}
                  </td>
                  {hasNumbers && <td className="px-2 font-mono text-xs">{r.number}</td>}
                  <th scope="row" className="px-2 text-left font-normal">
                    <button
                      type="button"
                      aria-pressed={isPicked(r.components)}
                      className="min-h-7 w-full text-left break-words hover:underline"
                      onClick={() => onPick(r.components)}
                    >
                      {r.name || "without a name"}
                    </button>
                  </th>
                  <td className="px-2 text-right font-mono tabular-nums">{r.quantity}</td>
                  <td className="px-2">{r.material}</td>
                  <td
                    className="px-2 text-right font-mono whitespace-nowrap tabular-nums"
                    title={r.mass === null ? undefined : r.isExact ? "of the exact shape" : "from the mesh"}
                  >
                    {r.mass === null ? "" : `${r.isExact ? "" : "≈ "}${gramsWords(r.mass)}`}
                  </td>
                </tr>
              ))}
              {rows.length > most && (
                <tr>
                  <td colSpan={7}>
                    <button
                      type="button"
                      className="min-h-7 w-full underline"
                      onClick={() => setMost(most + MOST_ROWS)}
                    >
                      {rows.length - most} more
                    </button>
                  </td>
                </tr>
              )}
            </tbody>
          </table>
          {rows.length === 0 && <p className="p-4 text-soft">The model places no part.</p>}
        </div>
      )}
    </section>
  );
}
