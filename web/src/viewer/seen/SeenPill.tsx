import { Eye } from "lucide-react";
import type { SeenSheet } from "../../api/types";
import { toggleShading, useShading } from "./shading";

/** How much of the sheet one has seen; shades the rest. */
export function SeenPill({ seen }: { seen: SeenSheet }) {
  const isShading = useShading();
  return (
    <button
      type="button"
      data-on-sheet
      aria-pressed={isShading}
      title={`You have had ${seen.percent} % of this sheet before you at a legible size. ${isShading ? "Press to show it plain again" : "Press to shade the rest"} (S).`}
      className={`flex items-center gap-1.5 px-2 py-0.5 text-xs ${isShading ? "bg-ink text-raised" : "bg-raised/85 hover:bg-raised"}`}
      onClick={toggleShading}
    >
      <Eye size={13} aria-hidden /> {seen.percent} % seen
    </button>
  );
}
