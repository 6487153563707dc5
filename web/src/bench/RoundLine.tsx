import { useEffect, useRef } from "react";
import type { PackageItem, PackageView } from "../api/types";
import { Afterwards } from "../ui/Afterwards";
import { shortDay } from "../ui/time";

/** Drafts and rounds of the item along one line; the draft in view is filled, an earlier one opens on a click. */
export function RoundLine({
  p,
  item,
  draft,
  onDraft,
}: {
  p: PackageView;
  item: PackageItem;
  draft: string;
  onDraft: (draft: string | null) => void;
}) {
  const stops = [
    ...item.earlierDrafts.map((e) => ({ draft: e.draft, ordinal: e.ordinal, words: `round ${e.round}` })),
    {
      draft: item.draft,
      ordinal: item.ordinal,
      words: `round ${p.round} · ${p.standing === "released" ? "released" : p.standing === "returned" ? "returned" : "now"}`,
    },
  ];
  const current = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    // Some browsers answer with a promise, which would be taken for what undoes the effect.
    void current.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [draft]);
  return (
    <div className="flex h-[58px] shrink-0 items-center gap-6 border-t border-rule bg-ground px-4">
      <span className="label">Rounds</span>
      {/* Many rounds are scrolled within their line. */}
      <div className="relative flex min-w-0 flex-1 items-start overflow-x-auto overflow-y-hidden p-0.5">
        <span aria-hidden className="absolute top-[9px] right-0 left-0 h-px bg-ink" />
        {stops.map((s) => (
          <button
            key={s.draft}
            ref={s.draft === draft ? current : undefined}
            type="button"
            aria-pressed={s.draft === draft}
            className="relative mr-14 flex shrink-0 max-[1100px]:mr-6 flex-col items-start whitespace-nowrap"
            onClick={() => onDraft(s.draft === item.draft ? null : s.draft)}
          >
            <span
              className={`h-[15px] w-[15px] rounded-full border border-ink ${s.draft === draft ? "bg-spruce" : "bg-raised"}`}
            />
            <span className="mt-1 text-sm">
              <b className="font-mono font-semibold">
                {item.revision}.{s.ordinal}
              </b>{" "}
              <span className="text-soft">{s.words}</span>
            </span>
          </button>
        ))}
      </div>
      {/* Times come with what lies about the sheet: the first format of a page takes as long as the rest of its script. */}
      <Afterwards>
        {() => (
          <span
            className="max-w-[40%] truncate text-sm text-soft max-[1100px]:hidden"
            title={`Sent ${shortDay(p.roundAt)} by ${p.originatorName}`}
          >
            Sent {shortDay(p.roundAt)} by {p.originatorName}
          </span>
        )}
      </Afterwards>
    </div>
  );
}
