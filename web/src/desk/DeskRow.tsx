import { memo } from "react";
import type { Me, PackageRow } from "../api/types";
import { rowStrip } from "../strip/stripOf";
import { MiniStrip } from "../strip/Strip";
import { RoundTag, StandingTag } from "../ui/kit";
import { MarkedSign } from "../ui/MarkedSign";
import { timeLeft, when } from "../ui/time";

type Props = {
  row: PackageRow;
  /** Why it is here. */
  words: string;
  /** Whose desk it is; times are written as they read them. */
  me: Me;
  isCurrent: boolean;
  onPick: (id: string) => void;
  onRead: (id: string) => void;
  onOpen: (id: string) => void;
};

/** A package on the desk. Going from row to row draws two of them, not all. */
export const DeskRow = memo(function DeskRow({ row, words, me, isCurrent, onPick, onRead, onOpen }: Props) {
  return (
    <li className="relative">
      {row.isMarked && (
        <span className="absolute top-1 left-[58px] z-10 rounded border border-rule bg-raised">
          <MarkedSign of={row.number} package={row.id} isReached={isCurrent} />
        </span>
      )}
      <button
        type="button"
        data-row={row.id}
        aria-current={isCurrent}
        tabIndex={isCurrent ? 0 : -1}
        className={`flex w-full items-center gap-4 border-b border-rule px-4 py-2.5 text-left max-[700px]:flex-wrap max-[700px]:gap-x-3 max-[700px]:gap-y-1.5 ${
          isCurrent ? "bg-picked shadow-[inset_3px_0_0_var(--color-spruce)]" : "hover:bg-hover"
        }`}
        onClick={() => onRead(row.id)}
        onFocus={() => onPick(row.id)}
        onDoubleClick={() => onOpen(row.id)}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          e.preventDefault();
          onOpen(row.id);
        }}
      >
        <img
          src={`/api/drafts/${row.draft}/leaves/0/small`}
          alt=""
          className="h-[44px] w-[62px] shrink-0 border border-rule bg-paper object-contain"
        />
        <span className="min-w-0 flex-1 max-[700px]:basis-[70%]">
          <span className="flex items-center gap-2 max-[700px]:flex-wrap">
            <span className="shrink-0 font-mono text-sm">{row.number}</span>
            <span className="truncate font-semibold">{row.title}</span>
            <RoundTag round={row.round} />
          </span>
          <span className="block truncate text-soft">{words}</span>
        </span>
        <span className="w-[140px] shrink-0 truncate max-[700px]:order-last max-[700px]:flex-1">
          {row.originator === me.id ? "You" : row.originatorName}
          <span className="block text-sm text-soft">{when(row.roundAt)}</span>
        </span>
        <MiniStrip state={rowStrip(row)} />
        <span className="w-[128px] shrink-0 text-right max-[1100px]:w-[86px]">
          <Left row={row} />
        </span>
      </button>
    </li>
  );
});

function Left({ row }: { row: PackageRow }) {
  if (!row.due || !row.since || !row.left) return <StandingTag standing={row.standing} />;
  const { words, late } = timeLeft(row.left, row.due);
  const [since, due] = [new Date(row.since).getTime(), new Date(row.due).getTime()];
  const share = Math.min(1, Math.max(0.04, (Date.now() - since) / Math.max(1, due - since)));
  return (
    <>
      <span className={late ? "font-semibold text-rust" : ""}>{words}</span>
      <span className="mt-1 block h-[3px] bg-rule">
        <span className={`block h-[3px] ${late ? "bg-rust" : "bg-ink"}`} style={{ width: `${share * 100}%` }} />
      </span>
    </>
  );
}
