import type { PackageItem, PackageView } from "../api/types";
import { Button } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { useSeenOf } from "./SeenItems";

type Props = { p: PackageView; items: readonly PackageItem[]; onApprove: () => void; onClose: () => void };

/** Approves all items without a verdict, once each has been named with what one has looked at of it. */
export function ApproveRest({ p, items, onApprove, onClose }: Props) {
  const seen = useSeenOf(p.id);
  const opened = p.opened ?? [];
  const closed = items.filter((i) => !opened.includes(i.draft)).length;
  return (
    <SideSheet title={items.length === 1 ? "Approve one item" : `Approve ${items.length} items`} open onClose={onClose}>
      {closed > 0 && (
        <p className="mb-3 border-l-[3px] border-ochre pl-2.5">
          {closed === 1 ? "One of them you have" : `${closed} of them you have`} not opened. Your name would stand under
          something that you did not look at.
        </p>
      )}
      <ul className="mb-4 border border-rule">
        {items.map((i) => {
          const isOpened = opened.includes(i.draft);
          const percent = seen.get(i.draft);
          return (
            <li key={i.draft} className="flex items-baseline gap-2 border-t border-rule px-2.5 py-1.5 first:border-t-0">
              <span className="font-mono text-sm">
                {i.number} {i.revision}.{i.ordinal}
              </span>
              <span className="min-w-0 flex-1 truncate" title={i.title}>
                {i.title}
              </span>
              <span className={`shrink-0 text-sm ${isOpened ? "text-soft" : "text-ochre"}`}>
                {isOpened ? (percent === undefined ? "opened" : `opened, ${percent} % seen`) : "not opened yet"}
              </span>
            </li>
          );
        })}
      </ul>
      <p className="mb-3 text-soft">Nothing is signed yet: you sign all verdicts together, and can take each back.</p>
      <Button
        look="main"
        onClick={() => {
          onApprove();
          onClose();
        }}
      >
        Approve these {items.length}
      </Button>
    </SideSheet>
  );
}
