import type { ReactNode } from "react";

/** What the side of a model shows. */
export type SideTab = "parts" | "sections" | "views" | "data";
const tabs: readonly (readonly [SideTab, string])[] = [
  ["parts", "Parts"],
  ["sections", "Sections"],
  ["views", "Views"],
  ["data", "Data"],
];

type Props = {
  tab: SideTab;
  onTab: (tab: SideTab) => void;
  onClose: () => void;
  /** Whether there is room for it beside the model; otherwise it lies below. */
  isBeside: boolean;
  /** How many sections cut. */
  cuts: number;
  children: ReactNode;
};

/** The side of a model: its parts, its sections, its views, one of them at a time. */
export function SceneSide({ tab, onTab, onClose, isBeside, cuts, children }: Props) {
  return (
    <aside
      aria-label="Components of the model"
      className={`flex shrink-0 flex-col border-rule bg-ground px-2 py-2 ${isBeside ? "w-60 border-r" : "h-[45%] border-t"}`}
    >
      <div
        className="mb-2 flex items-center gap-2 border-b border-rule *:whitespace-nowrap"
        role="group"
        aria-label="Side of the model"
      >
        {tabs.map(([one, words]) => (
          <button
            key={one}
            type="button"
            aria-pressed={tab === one}
            className={`-mb-px min-h-7 border-b-2 text-sm ${tab === one ? "border-ink font-semibold" : "border-transparent text-soft hover:text-ink"}`}
            onClick={() => onTab(one)}
          >
            {words}
            {one === "sections" && cuts > 0 ? ` ${cuts}` : ""}
          </button>
        ))}
        <span className="flex-1" />
        <button type="button" className="min-h-6 text-sm underline" onClick={onClose}>
          Close
        </button>
      </div>
      {children}
    </aside>
  );
}

/** Opens the side where it is closed. */
export const OpenSide = ({ onOpen }: { onOpen: () => void }) => (
  <button
    type="button"
    data-on-sheet
    className="absolute top-3 left-14 z-20 min-h-7 border border-edge bg-raised px-2 text-sm"
    onClick={onOpen}
  >
    Parts
  </button>
);
