import { useQuery, useQueryClient } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { api } from "../../api/client";
import type { KeptView, KeptViewRow } from "../../api/types";
import { useAct } from "../../api/useAct";
import { Button, Fault } from "../../ui/kit";
import { SignButton } from "../../ui/SignButton";
import { standing, type Standing } from "../camera/eye";

type Props = {
  draft: string;
  position: number;
  look: (to: Standing) => void;
  /** How the model is seen now. */
  now: () => KeptView;
  /** Shows a view; of another draft only what does not hang on its components. */
  show: (view: KeptView, isOfThisDraft: boolean) => void;
};

/** Where one looks from, and the views that somebody keeps by name. */
export function ViewsPanel({ draft, position, look, now, show }: Props) {
  const [name, setName] = useState("");
  const [said, setSaid] = useState("");
  const queries = useQueryClient();
  const { data, error, refetch } = useQuery({
    queryKey: ["kept-views", draft, position],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${position}/views`),
    meta: { saysItself: true },
  });
  const anew = () => queries.invalidateQueries({ queryKey: ["kept-views"] });
  const keep = useAct(async (key) => {
    await api.once(key).put(`/drafts/${draft}/leaves/${position}/views`, { name: name.trim(), view: now() });
    setName("");
    await anew();
  });
  const remove = useAct(async (key, of: KeptViewRow) => {
    await api.once(key).delete(`/drafts/${of.draft}/leaves/${position}/views`, { name: of.name });
    await anew();
  });
  const views = data ?? [];
  const isKept = views.some((v) => v.draft === draft && v.name === name.trim());
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-y-auto" role="region" aria-label="Views">
      <div className="flex flex-wrap gap-1" role="group" aria-label="Look from">
        {(Object.keys(standing) as Standing[]).map((to) => (
          <button
            key={to}
            type="button"
            className="min-h-7 rounded-[5px] border border-edge px-2 text-sm hover:bg-picked"
            onClick={() => look(to)}
          >
            {standing[to].words}
          </button>
        ))}
      </div>
      <p className="label mt-3">Kept by you</p>
      <form
        className="mt-1 flex gap-1"
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim() !== "") void keep.run();
        }}
      >
        <input
          aria-label="Name of this view"
          placeholder="Name of this view"
          maxLength={60}
          className="field min-w-0 flex-1"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" disabled={keep.isBusy || name.trim() === ""}>
          {isKept ? "Replace" : "Keep"}
        </Button>
      </form>
      {(keep.fault ?? remove.fault) && <Fault>{keep.fault ?? remove.fault}</Fault>}
      {error && (
        <p role="alert" className="mt-1 text-sm">
          {error.message}{" "}
          <button type="button" className="underline" onClick={() => void refetch()}>
            Load again
          </button>
        </p>
      )}
      {data && views.length === 0 && (
        <p className="mt-2 text-sm text-soft">
          None yet. A view keeps where you look from, what is hidden and painted, and the sections.
        </p>
      )}
      <ul className="mt-1" aria-label="Kept views">
        {views.map((v) => (
          <li key={`${v.draft}/${v.name}`} className="flex min-h-7 items-center border-b border-rule">
            <button
              type="button"
              className="min-w-0 flex-1 truncate text-left hover:underline"
              title={v.name}
              onClick={() => {
                show(v.view, v.draft === draft);
                setSaid(
                  v.draft === draft || v.view.eye.hidden.length + v.view.ghost.length + v.view.painted.length === 0
                    ? ""
                    : `“${v.name}” was kept on ${v.label}: what it hides and paints is left as it is here.`,
                );
              }}
            >
              {v.name}
            </button>
            {v.draft !== draft && <span className="px-1 font-mono text-xs text-soft">{v.label}</span>}
            <SignButton words={`Remove the view ${v.name}`} disabled={remove.isBusy} onClick={() => void remove.run(v)}>
              <X size={14} />
            </SignButton>
          </li>
        ))}
      </ul>
      <p role="status" className="mt-1 text-sm text-soft">
        {said}
      </p>
    </div>
  );
}
