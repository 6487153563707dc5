import { Box } from "lucide-react";
import type { ShownInModel } from "../api/types";

/** The models that show what is drawn on the sheet: a press opens one beside, and picks it there. */
export function ShownIn({
  models,
  onOpen,
}: {
  models: readonly ShownInModel[];
  onOpen: (model: ShownInModel) => void;
}) {
  return models.slice(0, MOST).map((m) => (
    <button
      key={m.name.document}
      type="button"
      data-on-sheet
      title={`${m.name.number} ${m.name.label} ${m.name.title}: shown beside, with ${m.number} picked`}
      className="flex min-h-6 items-center gap-1.5 px-1 whitespace-nowrap underline decoration-dotted underline-offset-3"
      onClick={() => onOpen(m)}
    >
      <Box size={14} strokeWidth={1.6} aria-hidden />
      In {m.name.number}
    </button>
  ));
}

/** More than that have no room at the sheet's corner. */
const MOST = 3;
