import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { planOf, stepsOf } from "../api/types";
import { PinButton } from "../kept/PinButton";
import { useMe } from "../session/me";
import { packageQuery } from "../slip/packageQuery";
import { stripOf } from "../strip/stripOf";
import { Strip } from "../strip/Strip";
import { Formatted } from "../ui/Formatted";
import { Button, RoundTag, StandingTag } from "../ui/kit";
import { usePeople } from "../ui/people";
import { when } from "../ui/time";
import { sheetsQuery } from "../viewer/sheetsQuery";

/** The row in focus: why it is here and what was said so far. */
export function Summary({ id, isOver, onClose }: { id: string; isOver: boolean; onClose: () => void }) {
  const me = useMe();
  const people = usePeople();
  const navigate = useNavigate();
  const { data: p } = useQuery(packageQuery(id));
  // What lies on the bench first is asked for while the summary is read.
  const first = p?.items[0]?.draft;
  useQuery({ ...sheetsQuery(first ?? ""), enabled: first !== undefined, notifyOnChangeProps: [] });
  const place = `flex w-[372px] shrink-0 flex-col border-l border-rule bg-raised max-[900px]:w-[300px] max-[700px]:fixed max-[700px]:inset-0 max-[700px]:z-30 max-[700px]:w-full max-[700px]:border-l-0 ${isOver ? "" : "max-[700px]:hidden"}`;
  if (!p) return <aside aria-label="The package in focus" aria-busy className={place} />;
  const mine = p.may.seats[0];
  const step = stepsOf(planOf(p.slip)).find((s) => s.key === mine?.step);
  const requests = p.notes.filter((n) => n.kind === "request");
  const open = requests.filter((n) => n.standing !== "closed").length;
  const said = p.signOffs.slice(-4).reverse();
  return (
    <aside aria-label={p.title} className={place}>
      <button
        type="button"
        className="hidden min-h-10 border-b border-rule px-4 text-left underline max-[700px]:block"
        onClick={onClose}
      >
        Back to the desk
      </button>
      <div className="flex-1 overflow-y-auto p-4">
        <div className="flex items-center gap-3">
          <span className="font-mono text-sm">{p.number}</span>
          <RoundTag round={p.round} />
          <span className="ml-auto">
            <StandingTag standing={p.standing} />
          </span>
          <PinButton kind="package" id={p.id} name={p.number} />
        </div>
        <h2 className="mt-1.5 mb-3 text-xl leading-snug font-semibold">{p.title}</h2>
        <Strip state={stripOf(p)} me={me.id} people={people} />
        {step && (
          <>
            <h3 className="label mt-4">What this step asks of you</h3>
            <div className="mt-1">
              <Formatted text={step.instruction} />
            </div>
          </>
        )}
        {p.coveringNote && (
          <>
            <h3 className="label mt-4">Covering note from {p.originator === me.id ? "you" : p.originatorName}</h3>
            <p className="mt-1 whitespace-pre-wrap">{p.coveringNote}</p>
          </>
        )}
        {p.slip.facts?.changeOrder && (
          <p className="mt-3 break-words">Carries out change order {p.slip.facts.changeOrder}</p>
        )}
        <h3 className="label mt-4">In the package</h3>
        <ul className="mt-1">
          {p.items.map((i) => (
            <li key={i.draft} className="flex gap-2 border-b border-dotted border-rule py-1">
              <span className="font-mono text-sm">{i.number}</span>
              <span className="font-mono text-sm text-soft">
                {i.revision}.{i.ordinal}
              </span>
              <span className="truncate">{i.title}</span>
            </li>
          ))}
        </ul>
        {requests.length > 0 && (
          <p className="mt-3 flex justify-between">
            <span>Requests still open</span>
            <b className={open > 0 ? "text-rust" : ""}>
              {open} of {requests.length}
            </b>
          </p>
        )}
        {said.length > 0 && <h3 className="label mt-4 mb-1">Said so far</h3>}
        {said.map((s) => {
          const returns = s.verdicts.some((v) => v.verdict === "returnForChanges");
          return (
            <div key={s.id} className={`mt-2 border-l-[3px] pl-2.5 ${returns ? "border-rust" : "border-ink"}`}>
              <b className="font-semibold">{s.name}</b>{" "}
              <span className="text-soft">
                {returns ? "returned" : "signed"} in round {s.round}, {when(s.at)}
              </span>
              {s.remark && <p>{s.remark}</p>}
            </div>
          );
        })}
      </div>
      <div className="border-t border-rule p-4">
        <Button look="main" shortcut="↵" onClick={() => void navigate(`/packages/${id}`)}>
          Open the bench
        </Button>
      </div>
    </aside>
  );
}
