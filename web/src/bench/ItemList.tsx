import { planOf, stepsOf, type PackageView, type Verdict } from "../api/types";
import { useMe } from "../session/me";
import { VerdictMark } from "../ui/VerdictMark";
import { SeenLine, useSeenOf } from "./SeenItems";
import { verdictOf, type Choices } from "./verdicts";

type Props = {
  p: PackageView;
  index: number;
  choices: Choices;
  onOpen: (index: number) => void;
  /** Whether only pictures and numbers are shown, to leave room for the sheets. */
  isNarrow: boolean;
};

/** The items of the package, with one's verdict and what is asked for on each. */
export function ItemList({ p, index, choices, onOpen, isNarrow }: Props) {
  const me = useMe();
  const mine = p.may.seats[0];
  const seen = useSeenOf(p.id);
  const asked = mine
    ? (stepsOf(planOf(p.slip)).find((s) => s.seats.some((x) => x.key === mine.seat))?.seenShare ?? 0)
    : 0;
  return (
    <nav
      aria-label="Items of the package"
      id="list"
      className={`${isNarrow ? "w-[96px]" : "w-[212px]"} shrink-0 overflow-y-auto border-r border-rule max-[900px]:flex max-[900px]:w-full max-[900px]:overflow-x-auto max-[900px]:overflow-y-hidden max-[900px]:border-r-0`}
    >
      <h2 className="label px-3 pt-3 pb-1">
        {p.items.length} {p.items.length === 1 ? "item" : "items"}
      </h2>
      {p.items.map((i, k) => {
        const mySignOff = p.signOffs.find((s) => s.stands && s.person === me.id);
        const verdict =
          verdictOf(choices, i)?.verdict ??
          (mySignOff?.verdicts.find((v) => v.draft === i.draft)?.verdict as Verdict | undefined) ??
          null;
        const requests = p.notes.filter(
          (n) =>
            n.kind === "request" &&
            n.standing !== "closed" &&
            (n.document === i.document || n.marks.some((m) => m.document === i.document)),
        ).length;
        return (
          <button
            key={i.document}
            type="button"
            aria-current={k === index}
            title={isNarrow ? i.title : undefined}
            className={`relative flex w-full gap-2.5 max-[900px]:w-56 max-[900px]:shrink-0 ${isNarrow ? "flex-col" : ""} border-b border-rule px-3 py-2.5 text-left ${k === index ? "bg-picked shadow-[inset_3px_0_0_var(--color-spruce)]" : "hover:bg-hover"}`}
            onClick={() => onOpen(k)}
          >
            <span className="relative shrink-0">
              <img
                src={`/api/drafts/${i.draft}/leaves/0/small`}
                alt=""
                className="h-[44px] w-[62px] border border-rule bg-paper object-contain"
              />
              {requests > 0 && (
                <span
                  className="absolute -top-1.5 -left-1.5 rounded-[3px] bg-rust px-1.5 text-xs leading-4 font-semibold text-on"
                  title={`${requests} open requests`}
                >
                  {requests}
                </span>
              )}
            </span>
            <span className="min-w-0 flex-1">
              <span className="flex items-center gap-1.5">
                <b className="font-mono text-sm font-semibold">{i.number}</b>
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
              <SeenLine percent={seen.get(i.draft)} asked={asked} />
            </span>
          </button>
        );
      })}
    </nav>
  );
}
