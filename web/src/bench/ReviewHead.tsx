import { memo } from "react";
import { Link } from "react-router";
import { blocksOf, planOf, stepsOf, type PackageItem, type PackageView } from "../api/types";
import { useMe } from "../session/me";
import { Clamped } from "../ui/Clamped";
import { Formatted } from "../ui/Formatted";
import { usePeople } from "../ui/people";
import { Strip } from "../strip/Strip";
import { IntakeAnswers } from "../slip/IntakeAnswers";
import { stripOf } from "../strip/stripOf";

/** What is asked of whoever looks, what the sender wrote, and where the package is on its way. */
export const ReviewHead = memo(function ReviewHead({
  p,
  item,
  isTight,
}: {
  p: PackageView;
  item: PackageItem;
  isTight: boolean;
}) {
  const me = useMe();
  const people = usePeople();
  const mine = p.may.seats[0];
  const steps = stepsOf(planOf(p.slip));
  const step = steps.find((s) => s.key === mine?.step);
  const name = (key: string) => `“${steps.find((s) => s.key === key)?.name ?? key}”`;
  const order = p.slip.facts?.changeOrder;
  const back = (p.slip.cameBack ?? []).filter((b) => p.slip.open.includes(b.to));
  return (
    <div
      tabIndex={-1}
      className={`min-h-[72px] ${isTight ? "max-h-[24%]" : "max-h-[46%]"} overflow-y-auto max-[900px]:max-h-none border-b border-rule p-3.5`}
    >
      {step && (
        <>
          <h2 className="label">
            {step.name} asks you, as {step.seats.find((s) => s.key === mine?.seat)?.role}
          </h2>
          <div className="mt-0.5 mb-3">
            <Formatted text={step.instruction} />
          </div>
        </>
      )}
      {back.map((b) => (
        <p key={b.to} className="mb-3 border-l-[3px] border-ochre pl-2.5 break-words" dir="auto">
          <b className="font-semibold">
            {step?.key === b.to ? "It came back to you" : `It came back to ${name(b.to)}`} from{" "}
            {b.from.map(name).join(" and ")}
          </b>
          {b.because ? `, because: ${b.because}` : "; the requests on it say why."}
          {step?.key === b.to && " You can pass it on to the originator with these requests."}
        </p>
      ))}
      {p.differing.map((d) => (
        <Differing key={d.choice} p={p} d={d} />
      ))}
      {mine && mine.for !== me.id && (
        <p className="mb-2 border-l-[3px] border-ochre pl-2.5">
          You sign for {people.get(mine.for)?.name}, who is away. The ledger says so.
        </p>
      )}
      {(p.coveringNote || order) && (
        <div className="mb-3">
          {(step || order) && (
            <h3 className="label break-words">
              {[p.coveringNote && `${p.originatorName.split(" ")[0]} writes`, order && `Change order ${order}`]
                .filter(Boolean)
                .join(" · ")}
            </h3>
          )}
          {p.coveringNote && <Clamped>{p.coveringNote}</Clamped>}
        </div>
      )}
      {p.rounds.length > 1 && (
        <details className="mb-3">
          <summary className="cursor-pointer text-soft">What was said with earlier rounds</summary>
          {p.rounds
            .slice(0, -1)
            .reverse()
            .map((r) => (
              <div key={r.at} className="mt-1 border-l border-rule pl-2.5">
                <span className="text-sm text-soft">
                  Round {r.round}, {r.name}
                </span>
                <Clamped>{r.coveringNote || "Nothing was said."}</Clamped>
              </div>
            ))}
        </details>
      )}
      {p.splitFrom && (
        <p className="mb-2 text-soft">
          Came back item by item;{" "}
          <Link className="underline" to={`/packages/${p.splitFrom}`}>
            the others went on
          </Link>
          .
        </p>
      )}
      {item.unchanged.length > 0 && (
        <p className="mb-2 border-l-[3px] border-ochre pl-2.5">
          <b className="font-semibold">Unchanged since it was returned, because:</b>{" "}
          {item.unchanged.filter((w) => w !== "").join(" · ") || "see the answers below."}
        </p>
      )}
      <IntakeAnswers p={p} />
      <Strip state={stripOf(p)} me={me.id} people={people} />
    </div>
  );
});

/** The step waits until its signers agree on a way: who picked what, and what to do. */
function Differing({ p, d }: { p: PackageView; d: PackageView["differing"][number] }) {
  const me = useMe();
  const people = usePeople();
  const choice = blocksOf(planOf(p.slip)).find((b) => b.block === "choice" && b.key === d.choice);
  const way = (key: string) => (choice?.block === "choice" ? choice.ways.find((w) => w.key === key)?.name : key);
  const mine = d.picked.some((x) => x.person === me.id);
  return (
    <div className="mb-2 border-l-[3px] border-rust pl-2.5">
      <b className="font-semibold">The signers picked different ways, so the step waits until they agree.</b>
      <ul>
        {d.picked.map((x) => (
          <li key={x.seat + x.person}>
            {x.person === me.id ? "You" : people.get(x.person)?.name}: {way(x.way)}
          </li>
        ))}
      </ul>
      <p className="text-soft">
        {mine
          ? "Ask the others; whoever changes their mind takes their signature back, under Change the route, and signs again."
          : "Whoever changes their mind takes their signature back and signs again; a coordinator can take one back for them."}
      </p>
    </div>
  );
}
