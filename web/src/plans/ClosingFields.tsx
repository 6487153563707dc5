import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { api } from "../api/client";
import { stepsOf, type PersonGroup, type Plan } from "../api/types";
import { FolderField } from "../ui/FolderField";
import { NOBODY } from "./edit";

/** What happens on release besides locking and superseding. */
export function ClosingFields({
  plan,
  groups,
  onChange,
}: {
  plan: Plan;
  groups: readonly PersonGroup[];
  onChange: (plan: Plan) => void;
}) {
  const { data: plans } = useQuery({ queryKey: ["plans"], queryFn: () => api.get("/plans") });
  const closing = plan.closing ?? [];
  return (
    <>
      <h3 className="label mb-1">On release</h3>
      <p className="mb-2 text-sm text-soft">The revisions are locked and the earlier ones superseded. Besides:</p>
      {closing.map((c, i) => (
        <div key={i} className="mb-1 flex items-center gap-1">
          {c.action === "openFollowUp" ? (
            <span className="grid flex-1 gap-1">
              <input
                className="field"
                aria-label="Title of the next package"
                placeholder="Title of the next package"
                value={c.title}
                onChange={(e) =>
                  onChange({
                    ...plan,
                    closing: closing.map((x, k) => (k === i ? { ...c, title: e.target.value } : x)),
                  })
                }
              />
              <select
                className="field"
                aria-label="Plan of the next package"
                value={c.plan}
                onChange={(e) =>
                  onChange({ ...plan, closing: closing.map((x, k) => (k === i ? { ...c, plan: e.target.value } : x)) })
                }
              >
                <option value={NOBODY}>choose its plan</option>
                {(plans ?? []).map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.name}
                  </option>
                ))}
              </select>
            </span>
          ) : c.action === "fileWherePicked" ? (
            <>
              <span className="shrink-0 text-soft">file where a signer picks of</span>
              <select
                className="field"
                aria-label="Step whose signer picks the folder"
                value={c.step}
                onChange={(e) =>
                  onChange({ ...plan, closing: closing.map((x, k) => (k === i ? { ...c, step: e.target.value } : x)) })
                }
              >
                <option value="">choose</option>
                {stepsOf(plan).map((s) => (
                  <option key={s.key} value={s.key}>
                    {s.name}
                  </option>
                ))}
              </select>
            </>
          ) : c.action === "fileUnder" ? (
            <>
              <select
                className="field !w-24"
                aria-label="Move or copy"
                value={c.copy ? "copy" : "move"}
                onChange={(e) =>
                  onChange({
                    ...plan,
                    closing: closing.map((x, k) => (k === i ? { ...c, copy: e.target.value === "copy" } : x)),
                  })
                }
              >
                <option value="move">move to</option>
                <option value="copy">copy to</option>
              </select>
              <FolderField
                label="Folder"
                value={c.folder}
                onChange={(folder) =>
                  onChange({ ...plan, closing: closing.map((x, k) => (k === i ? { ...c, folder } : x)) })
                }
              />
            </>
          ) : (
            <>
              <span className="shrink-0 text-soft">inform</span>
              <select
                className="field"
                aria-label="Group informed"
                value={c.group}
                onChange={(e) =>
                  onChange({ ...plan, closing: closing.map((x, k) => (k === i ? { ...c, group: e.target.value } : x)) })
                }
              >
                {groups.map((g) => (
                  <option key={g.id} value={g.id}>
                    {g.name}
                  </option>
                ))}
              </select>
            </>
          )}
          <button
            type="button"
            aria-label="Remove this action"
            className="p-1"
            onClick={() => onChange({ ...plan, closing: closing.filter((_, k) => k !== i) })}
          >
            <X size={14} />
          </button>
        </div>
      ))}
      <div className="flex flex-wrap gap-x-4">
        <button
          type="button"
          className="underline"
          onClick={() => onChange({ ...plan, closing: [...closing, { action: "fileUnder", folder: "" }] })}
        >
          file under a folder
        </button>
        <button
          type="button"
          className="underline"
          onClick={() => onChange({ ...plan, closing: [...closing, { action: "fileWherePicked", step: "" }] })}
        >
          file where a signer picks
        </button>
        <button
          type="button"
          className="underline"
          onClick={() =>
            onChange({ ...plan, closing: [...closing, { action: "openFollowUp", plan: NOBODY, title: "" }] })
          }
        >
          prepare a next package
        </button>
        {groups[0] && (
          <button
            type="button"
            className="underline"
            onClick={() =>
              onChange({ ...plan, closing: [...closing, { action: "informGroup", group: groups[0]!.id }] })
            }
          >
            inform a group
          </button>
        )}
      </div>
    </>
  );
}
