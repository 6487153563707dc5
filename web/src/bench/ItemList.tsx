import type { PackageView, Verdict } from "../api/types";
import { useMe } from "../session/me";
import { VerdictMark } from "../ui/VerdictMark";
import type { Choice } from "./VerdictBar";

type Props = {
  p: PackageView;
  index: number;
  choices: Readonly<Record<string, Choice>>;
  onOpen: (index: number) => void;
};

/** The items of the package, with one's verdict and what is asked for on each. */
export function ItemList({ p, index, choices, onOpen }: Props) {
  const me = useMe();
  const mine = p.may.seats[0];
  return (
    <nav aria-label="Items of the package" className="w-[212px] shrink-0 overflow-y-auto border-r border-rule">
      <h2 className="label px-3 pt-3 pb-1">
        {p.items.length} {p.items.length === 1 ? "item" : "items"}
      </h2>
      {p.items.map((i, k) => {
        const mySignOff = p.signOffs.find((s) => s.stands && s.person === me.id);
        const verdict =
          choices[i.draft]?.verdict ??
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
            className={`relative flex w-full gap-2.5 border-b border-rule px-3 py-2.5 text-left ${k === index ? "bg-picked shadow-[inset_3px_0_0_var(--color-spruce)]" : "hover:bg-[#edeae0]"}`}
            onClick={() => onOpen(k)}
          >
            <span className="relative shrink-0">
              <img
                src={`/api/drafts/${i.draft}/leaves/0/small`}
                alt=""
                className="h-[44px] w-[62px] border border-rule bg-white object-contain"
              />
              {requests > 0 && (
                <span
                  className="absolute -top-1.5 -left-1.5 rounded-[3px] bg-rust px-1.5 text-xs leading-4 font-semibold text-white"
                  title={`${requests} open requests`}
                >
                  {requests}
                </span>
              )}
            </span>
            <span className="min-w-0 flex-1">
              <span className="flex items-center gap-1.5">
                <b className="font-mono text-sm font-semibold">{i.number}</b>
                <span className="font-mono text-sm text-soft">
                  {i.revision}.{i.ordinal}
                </span>
                <span className="ml-auto">{(mine || mySignOff) && <VerdictMark verdict={verdict} />}</span>
              </span>
              <span className="block truncate">{i.title}</span>
            </span>
          </button>
        );
      })}
    </nav>
  );
}
