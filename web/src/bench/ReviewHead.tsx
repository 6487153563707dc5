import { Link } from "react-router";
import { planOf, stepsOf, type PackageItem, type PackageView } from "../api/types";
import { useMe } from "../session/me";
import { Clamped } from "../ui/Clamped";
import { Formatted } from "../ui/Formatted";
import { usePeople } from "../ui/people";
import { Strip } from "../ui/Strip";
import { IntakeAnswers } from "./IntakeAnswers";
import { stripOf } from "./strip";

/** What is asked of whoever looks, what the sender wrote, and where the package is on its way. */
export function ReviewHead({ p, item }: { p: PackageView; item: PackageItem }) {
  const me = useMe();
  const people = usePeople();
  const mine = p.may.seats[0];
  const step = stepsOf(planOf(p.slip)).find((s) => s.key === mine?.step);
  return (
    <div className="max-h-[56%] shrink-0 overflow-y-auto border-b border-rule p-3.5">
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
      {mine && mine.for !== me.id && (
        <p className="mb-2 border-l-[3px] border-ochre pl-2.5">
          You sign for {people.get(mine.for)?.name}, who is away. The ledger says so.
        </p>
      )}
      {p.coveringNote && (
        <div className="mb-3">
          {step && <h3 className="label">{p.originatorName.split(" ")[0]} writes</h3>}
          <Clamped>{p.coveringNote}</Clamped>
        </div>
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
}
