import { PencilLine } from "lucide-react";
import { useDeferredValue, useEffect, useRef, useState } from "react";
import { planOf, stepsOf, type PackageItem, type PackageView, type PersonHere, type Verdict } from "../api/types";
import { isFound } from "../lists/listing";
import { useMe } from "../session/me";
import { VerdictMark } from "../ui/VerdictMark";
import { HereLine } from "./HereLine";
import { SeenLine, useSeenOf } from "./SeenItems";
import { toJudge, verdictOf, type Choices } from "./verdicts";

type Props = {
  p: PackageView;
  index: number;
  choices: Choices;
  onOpen: (index: number) => void;
  /** How many markups lie on a draft by now, where that is known better than when the package came. */
  drawn: { draft: string; count: number } | null;
  /** Who else has which sheet before them. */
  others: readonly PersonHere[];
  /** Whether only pictures and numbers are shown, to leave room for the sheets. */
  isNarrow: boolean;
};

/** From how many items on they can be searched, and those left to decide shown alone. */
const MANY = 8;

/** The items of the package, with one's verdict and what is asked for on each. */
export function ItemList({ p, index, choices, onOpen, drawn, others, isNarrow }: Props) {
  const me = useMe();
  const mine = p.may.seats[0];
  const seen = useSeenOf(p.id);
  const [words, setWords] = useState("");
  const [isLeftOnly, setLeftOnly] = useState(false);
  const sought = useDeferredValue(words);
  const asked = mine
    ? (stepsOf(planOf(p.slip)).find((s) => s.seats.some((x) => x.key === mine.seat))?.seenShare ?? 0)
    : 0;
  const judged = mine ? toJudge(p, mine.seat, mine.for) : [];
  const mySignOff = p.signOffs.find((s) => s.stands && s.person === me.id);
  const isLeft = (i: PackageItem) => judged.includes(i) && !verdictOf(choices, i);
  const left = judged.filter(isLeft).length;
  const isMany = p.items.length >= MANY && !isNarrow;
  const shown = p.items.flatMap((i, k) =>
    !isMany || (isFound(sought, i.number, i.title) && (!isLeftOnly || isLeft(i) || k === index)) ? [{ i, k }] : [],
  );
  const requests = new Map<string, number>();
  for (const n of p.notes)
    if (n.kind === "request" && n.standing !== "closed")
      for (const document of new Set([n.document, ...n.marks.map((m) => m.document)]))
        requests.set(document, (requests.get(document) ?? 0) + 1);
  // The one that is looked at is in view, also when it was opened from elsewhere.
  const current = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    // Some browsers answer with a promise, which would be taken for what undoes the effect.
    void current.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [index]);
  return (
    <nav
      aria-label="Items of the package"
      id="list"
      className={`${isNarrow ? "w-[96px]" : "w-[212px]"} shrink-0 overflow-y-auto border-r border-rule max-[900px]:flex max-[900px]:w-full max-[900px]:overflow-x-auto max-[900px]:overflow-y-hidden max-[900px]:border-r-0`}
    >
      <div className={`bg-ground ${isMany ? "sticky top-0 z-10 border-b border-rule pb-2 max-[900px]:static" : ""}`}>
        <h2 className="label px-3 pt-3 pb-1">
          {p.items.length} {p.items.length === 1 ? "item" : "items"}
          {isMany && mine && <span className="text-ink"> · {left === 0 ? "all decided" : `${left} to decide`}</span>}
        </h2>
        {isMany && (
          <div className="px-3">
            <input
              type="search"
              className="field"
              aria-label="Find among the items"
              placeholder="Number or title"
              maxLength={200}
              value={words}
              onChange={(e) => setWords(e.target.value)}
            />
            {mine && (
              <label className="mt-1 flex min-h-6 items-center gap-2">
                <input
                  type="checkbox"
                  className="accent-spruce"
                  checked={isLeftOnly}
                  onChange={(e) => setLeftOnly(e.target.checked)}
                />
                only those left to decide
              </label>
            )}
          </div>
        )}
      </div>
      {shown.length === 0 && (
        <p className="px-3 py-2 text-soft">No item is called so{isLeftOnly ? " and left to decide" : ""}.</p>
      )}
      {shown.map(({ i, k }) => {
        const verdict =
          verdictOf(choices, i)?.verdict ??
          (mySignOff?.verdicts.find((v) => v.draft === i.draft)?.verdict as Verdict | undefined) ??
          null;
        const open = requests.get(i.document) ?? 0;
        const markups = drawn?.draft === i.draft ? drawn.count : (i.marked?.count ?? 0);
        return (
          <button
            key={i.document}
            ref={k === index ? current : undefined}
            type="button"
            aria-current={k === index}
            title={`${i.number} ${i.title}`}
            // What is out of sight is not laid out: three hundred items open as soon as ten.
            className={`item relative flex w-full gap-2.5 max-[900px]:w-56 max-[900px]:shrink-0 ${isNarrow ? "flex-col" : ""} border-b border-rule px-3 py-2.5 text-left ${k === index ? "bg-picked shadow-[inset_3px_0_0_var(--color-spruce)]" : "hover:bg-hover"}`}
            onClick={() => onOpen(k)}
          >
            <span className="relative shrink-0">
              <img
                src={`/api/drafts/${i.draft}/leaves/0/small`}
                alt=""
                loading="lazy"
                width={62}
                height={44}
                className="h-[44px] w-[62px] border border-rule bg-paper object-contain"
              />
              {open > 0 && (
                <span
                  className="absolute -top-1.5 -left-1.5 rounded-[3px] bg-rust px-1.5 text-xs leading-4 font-semibold text-on"
                  title={`${open} open ${open === 1 ? "request" : "requests"}`}
                >
                  {open}
                </span>
              )}
            </span>
            <span className="min-w-0 flex-1">
              <span className="flex items-center gap-1.5">
                <b className="truncate font-mono text-sm font-semibold">{i.number}</b>
                {!isNarrow && (
                  <span className="font-mono text-sm text-soft">
                    {i.revision}.{i.ordinal}
                  </span>
                )}
                <span className={isNarrow ? "absolute top-4 right-4 rounded-full bg-raised/80" : "ml-auto"}>
                  {(mine || mySignOff) && <VerdictMark verdict={verdict} />}
                </span>
              </span>
              {!isNarrow && <span className="block truncate">{i.title}</span>}
              {!isNarrow && markups > 0 && (
                <span className="flex items-center gap-1 text-sm text-soft">
                  <PencilLine size={12} aria-hidden className="text-spruce" />
                  {markups} {markups === 1 ? "markup" : "markups"}
                </span>
              )}
              <SeenLine percent={seen.get(i.draft)} asked={asked} />
              <HereLine
                people={others.filter((o) => i.draft === o.draft || i.earlierDrafts.some((e) => e.draft === o.draft))}
              />
            </span>
          </button>
        );
      })}
    </nav>
  );
}
