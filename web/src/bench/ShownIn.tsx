import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Box, Link2, X } from "lucide-react";
import { useState } from "react";
import { api } from "../api/client";
import type { ShownInModel } from "../api/types";
import { useAct } from "../api/useAct";
import { Fault } from "../ui/kit";
import { SignButton } from "../ui/SignButton";
import { useSettled } from "../ui/useSettled";
import { BarPopover } from "./BarPopover";

type Props = {
  draft: string;
  /** The document of the draft. */
  document: string;
  models: readonly ShownInModel[];
  /** Whether who looks may say which models show it. */
  mayRelate: boolean;
  onOpen: (model: ShownInModel) => void;
};

/** The models that show what is drawn on the sheet: a press opens one beside, and picks it there. */
export function ShownIn({ draft, document, models, mayRelate, onOpen }: Props) {
  return (
    <>
      {models.slice(0, MOST).map((m) => (
        <button
          key={m.name.document}
          type="button"
          data-on-sheet
          title={`${m.name.number} ${m.name.label} ${m.name.title}: shown beside${m.number ? `, with ${m.number} picked` : ""}`}
          className="flex min-h-6 items-center gap-1.5 bg-raised/85 px-1 whitespace-nowrap underline decoration-dotted underline-offset-3"
          onClick={() => onOpen(m)}
        >
          <Box size={14} strokeWidth={1.6} aria-hidden />
          In {m.name.number}
        </button>
      ))}
      {mayRelate && (
        <span data-on-sheet>
          <BarPopover isSign icon={<Link2 size={15} />} words="Models that show this">
            <Relate {...{ draft, document, models }} />
          </BarPopover>
        </span>
      )}
    </>
  );
}

/** Says which models show what is drawn: for sheets whose number stands in none. */
function Relate({ draft, document, models }: Pick<Props, "draft" | "document" | "models">) {
  const client = useQueryClient();
  const [words, setWords] = useState("");
  const [component, setComponent] = useState("");
  const asked = useSettled(words.trim());
  const { data } = useQuery({
    queryKey: ["documents", "to relate", asked],
    queryFn: () => api.get("/documents", { kind: "model", search: asked }),
    enabled: asked !== "",
  });
  const { run, isBusy, fault } = useAct(async (key, model: string, isShown: boolean) => {
    await api.put(`/drafts/${draft}/models`, { key, model, component: isShown ? component.trim() : "", isShown });
    await client.invalidateQueries({ queryKey: ["sheets", draft, "models"] });
    setWords("");
    setComponent("");
  });
  const set = models.filter((m) => m.isSet);
  const found = (data?.rows ?? []).filter((d) => d.id !== document && !set.some((m) => m.name.document === d.id));
  return (
    <div>
      <p className="label px-1">Models that show this</p>
      {models.length === 0 && <p className="px-1 text-sm text-soft">Its number stands in no model.</p>}
      <ul>
        {models.map((m) => (
          <li key={m.name.document} className="flex items-center gap-2 border-b border-rule px-1 py-1 text-sm">
            <span className="min-w-0 flex-1 break-words">
              <span className="font-mono">{m.name.number}</span> <span className="text-soft">{m.name.title}</span>
              <span className="block text-soft">
                {m.isSet ? (m.number ? `said to show ${m.number}` : "said to show it") : `by the number ${m.number}`}
              </span>
            </span>
            {m.isSet && (
              <SignButton
                words={`Take ${m.name.number} away`}
                onClick={() => void run(m.name.document, false)}
                disabled={isBusy}
              >
                <X size={15} />
              </SignButton>
            )}
          </li>
        ))}
      </ul>
      <input
        type="search"
        className="field mt-2"
        aria-label="Relate another model"
        placeholder="Another model: number or title"
        maxLength={200}
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      <input
        className="field mt-1"
        aria-label="Number or name of the component in it"
        placeholder="Which component in it; all where empty"
        maxLength={200}
        value={component}
        onChange={(e) => setComponent(e.target.value)}
      />
      {words.trim() !== "" && asked === words.trim() && data && found.length === 0 && (
        <p className="px-1 text-sm text-soft">No other model is called so.</p>
      )}
      {found.slice(0, 6).map((d) => (
        <button
          key={d.id}
          type="button"
          disabled={isBusy}
          className="flex min-h-7 w-full gap-2 border-b border-dotted border-rule px-1 py-1 text-left hover:bg-picked"
          onClick={() => void run(d.id, true)}
        >
          <span className="font-mono text-sm">{d.number}</span>
          <span className="truncate text-soft">{d.title}</span>
        </button>
      ))}
      <Fault>{fault}</Fault>
    </div>
  );
}

/** More than that have no room at the sheet's corner. */
const MOST = 3;
