import { useQueryClient } from "@tanstack/react-query";
import { RadioGroup } from "radix-ui";
import { useState } from "react";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import { useKept } from "../kept/useKept";
import { stepsOf, type PackageView, planOf } from "../api/types";
import { Button, Empty, Fault, Labelled } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { nothingSaid, WhoHears } from "../slip/WhoHears";
import { usePeople } from "../ui/people";

type Kind =
  | "takeBack"
  | "reopen"
  | "handOver"
  | "refill"
  | "skip"
  | "extend"
  | "addStep"
  | "moveEdition"
  | "handPackage"
  | "recall"
  | "pullBack"
  | "stop";

const words: Record<Kind, [string, string]> = {
  takeBack: ["Take my signature back", "Until somebody has signed after it. The signature stays in the ledger."],
  reopen: ["Open a step again that has just passed", "Its last signature is taken back; nobody has signed after it."],
  handOver: ["Hand a seat to a colleague", "They sign in its place and hear of it at once."],
  refill: ["Fill a seat anew", "Who signs there, and how many of them."],
  skip: ["Ask for no further signature in a seat", "The ledger says who skipped it and why."],
  extend: ["Give a step more time", "Its due time moves; nothing else changes."],
  addStep: ["Add a step, for this package only", "It comes after the step you choose."],
  moveEdition: ["Move to the plan's newest edition", "Only when what was signed so far fits it."],
  handPackage: ["Give the package to another originator", "Its documents go along, and what waits for answers."],
  recall: ["Recall the package", "Until somebody has signed in this round."],
  pullBack: [
    "Pull the package back",
    "It goes to its originator, who sends the next round; signatures on what does not change stand.",
  ],
  stop: ["Stop the package", "It ends without release. This cannot be undone."],
};

/** What a person may do to a package on its way besides signing; each with a reason for the record. */
export function SlipActs({ p, open, onClose }: { p: PackageView; open: boolean; onClose: () => void }) {
  const people = usePeople();
  const client = useQueryClient();
  const [kind, setKind] = useState<Kind | null>(null);
  const written = useKept(`changing the route of ${p.id}`, "");
  const reason = written.value;
  const [seat, setSeat] = useState("");
  const [step, setStep] = useState("");
  const [to, setTo] = useState("");
  const [days, setDays] = useState("1");
  const [name, setName] = useState("");
  const [crew, setCrew] = useState<readonly string[]>([]);
  const [needed, setNeeded] = useState("1");
  const [signAgain, setSignAgain] = useState(false);
  const [unsigned, setUnsigned] = useState(false);
  const [say, setSay] = useState(nothingSaid);
  const steps = stepsOf(planOf(p.slip));
  const left = steps.filter((s) => p.may.extend.includes(s.key));
  const seats = steps.flatMap((s) =>
    s.seats.flatMap((x) =>
      (p.slip.seats.find((f) => f.key === x.key)?.people ?? []).map((person) => ({
        id: `${x.key} ${person}`,
        seat: x.key,
        person,
        words: `${s.name}: ${x.role}, ${people.get(person)?.name ?? ""}`,
      })),
    ),
  );
  const last = p.may.reopen.map(({ seat, person }) => ({
    id: `${seat} ${person}`,
    seat,
    person,
    words: `${steps.find((s) => s.seats.some((x) => x.key === seat))?.name ?? ""}: ${people.get(person)?.name ?? ""}`,
  }));
  const offered =
    kind === "reopen"
      ? last
      : seats.filter((s) =>
          kind === "handOver"
            ? p.may.handOver.some((h) => h.seat === s.seat && h.person === s.person)
            : (kind === "refill" ? p.may.refill : p.may.skip).includes(s.seat),
        );
  const can: Record<Kind, boolean> = {
    takeBack: p.may.takeBack.length > 0,
    reopen: p.may.reopen.length > 0,
    handOver: p.may.handOver.length > 0,
    refill: p.may.refill.length > 0,
    skip: p.may.skip.length > 0,
    extend: p.may.extend.length > 0,
    addStep: p.may.extend.length > 0,
    moveEdition: p.may.extend.length > 0,
    handPackage: p.may.handPackage,
    recall: p.may.recall,
    pullBack: p.may.pullBack,
    stop: p.may.stop,
  };
  const kinds = (Object.keys(words) as Kind[]).filter((k) => can[k]);
  const chosen = offered.find((s) => s.id === seat);
  const ready =
    kind !== null &&
    (kind === "takeBack" || reason.trim() !== "") &&
    (kind !== "handOver" || (chosen && to)) &&
    (kind !== "handPackage" || to) &&
    (kind !== "skip" || chosen) &&
    (kind !== "reopen" || chosen) &&
    (kind !== "refill" || (chosen && crew.length > 0)) &&
    (kind !== "extend" || step) &&
    (kind !== "addStep" || (to && name.trim()));
  const body = (words: string) => ({
    kind: kind!,
    reason: words,
    seat: kind === "takeBack" ? p.may.takeBack[0] : chosen?.seat,
    from: kind === "handOver" || kind === "reopen" ? chosen?.person : null,
    to: kind === "handOver" || kind === "handPackage" ? to : null,
    people: kind === "addStep" ? [to] : kind === "refill" ? crew : null,
    needed: kind === "refill" ? Number(needed) : null,
    step: step || null,
    days: kind === "extend" || kind === "addStep" ? Number(days) : null,
    name,
    withoutSignatures: kind === "skip" && unsigned,
    signAgain: kind === "pullBack" && signAgain,
  });
  const acting = useAct(async (key) => {
    await api.post(`/packages/${p.id}/acts`, { ...body(reason), key, say });
    written.discard();
    await client.invalidateQueries();
    setKind(null);
    setSay(nothingSaid);
    onClose();
  });
  return (
    <SideSheet title={`Change the route of ${p.number}`} open={open} onClose={onClose}>
      {kinds.length === 0 && (
        <Empty title="Nothing to change">
          Coordinators can change a package on its way, signers can hand over their seat, and an originator can recall
          it until somebody has signed.
        </Empty>
      )}
      <RadioGroup.Root
        aria-label="What to change"
        value={kind ?? ""}
        onValueChange={(k) => {
          setKind(k as Kind);
          acting.forget();
        }}
      >
        {kinds.map((k) => (
          <RadioGroup.Item
            key={k}
            value={k}
            className={`mb-1.5 block w-full border px-3 py-2 text-left ${kind === k ? "border-spruce bg-spruce-soft" : "border-rule hover:bg-lit"}`}
          >
            <b className="block font-semibold">{words[k][0]}</b>
            <span className="text-sm text-soft">{words[k][1]}</span>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      {kind && (
        <form
          className="mt-4"
          onSubmit={(e) => {
            e.preventDefault();
            void acting.run();
          }}
        >
          {(kind === "handOver" || kind === "skip" || kind === "refill" || kind === "reopen") && (
            <Labelled label={kind === "reopen" ? "Step, and who signed last" : "Seat"}>
              <select className="field" value={seat} onChange={(e) => setSeat(e.target.value)}>
                <option value="">choose</option>
                {offered.map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.words}
                  </option>
                ))}
              </select>
            </Labelled>
          )}
          {kind === "refill" && (
            <>
              <fieldset className="mb-3">
                <legend className="label mb-1">Who may sign there</legend>
                <div className="grid grid-cols-2 gap-x-3">
                  {[...people.values()].map((x) => (
                    <label key={x.id} className="flex items-center gap-2 py-0.5">
                      <input
                        type="checkbox"
                        className="accent-spruce"
                        checked={crew.includes(x.id)}
                        onChange={() => setCrew(crew.includes(x.id) ? crew.filter((c) => c !== x.id) : [...crew, x.id])}
                      />
                      {x.name}
                    </label>
                  ))}
                </div>
              </fieldset>
              <Labelled label="How many of them must">
                <input
                  className="field"
                  type="number"
                  min={1}
                  max={Math.max(1, crew.length)}
                  value={needed}
                  onChange={(e) => setNeeded(e.target.value)}
                />
              </Labelled>
            </>
          )}
          {(kind === "extend" || kind === "addStep") && (
            <Labelled label={kind === "extend" ? "Step" : "After"}>
              <select className="field" value={step} onChange={(e) => setStep(e.target.value)}>
                <option value="">{kind === "extend" ? "choose" : "the last step"}</option>
                {left.map((s) => (
                  <option key={s.key} value={s.key}>
                    {s.name}
                  </option>
                ))}
              </select>
            </Labelled>
          )}
          {kind === "addStep" && (
            <Labelled label="Name of the step">
              <input className="field" maxLength={80} value={name} onChange={(e) => setName(e.target.value)} />
            </Labelled>
          )}
          {kind === "recall" && <Written p={p} />}
          {(kind === "handOver" || kind === "addStep" || kind === "handPackage") && (
            <Labelled label={kind === "addStep" ? "Signed by" : "To"}>
              <select className="field" value={to} onChange={(e) => setTo(e.target.value)}>
                <option value="">choose</option>
                {[...people.values()].map((x) => (
                  <option key={x.id} value={x.id}>
                    {x.name}
                  </option>
                ))}
              </select>
            </Labelled>
          )}
          {(kind === "extend" || kind === "addStep") && (
            <Labelled label={kind === "extend" ? "Working days more" : "Working days allowed"}>
              <input
                className="field"
                type="number"
                min={0.25}
                max={60}
                step={0.25}
                value={days}
                onChange={(e) => setDays(e.target.value)}
              />
            </Labelled>
          )}
          {kind === "skip" && p.slip.signatures.length === 0 && (
            <label className="mb-3 flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-spruce"
                checked={unsigned}
                onChange={(e) => setUnsigned(e.target.checked)}
              />
              If nobody is left to sign, release it without signatures
            </label>
          )}
          {kind === "pullBack" && (
            <label className="mb-3 flex items-center gap-2">
              <input
                type="checkbox"
                className="accent-spruce"
                checked={signAgain}
                onChange={(e) => setSignAgain(e.target.checked)}
              />
              Everybody signs again, also what does not change
            </label>
          )}
          {kind !== "takeBack" && (
            <Labelled label="Reason, for the record">
              <textarea
                className="field"
                rows={3}
                maxLength={4000}
                value={reason}
                onChange={(e) => written.set(e.target.value)}
              />
            </Labelled>
          )}
          <WhoHears
            about={[p.id, p.round, body("")]}
            ask={ready ? () => api.post(`/packages/${p.id}/told`, { act: body("…") }) : null}
            say={say}
            setSay={setSay}
          />
          <Fault>{acting.fault}</Fault>
          <Button look="main" type="submit" disabled={acting.isBusy || !ready}>
            {words[kind][0]}
          </Button>
        </form>
      )}
    </SideSheet>
  );
}

/** Who has written something that a recall would leave behind; what is asked for stays with the documents. */
function Written({ p }: { p: PackageView }) {
  const others = p.notes.filter((n) => n.author !== p.originator && n.round > 0);
  const by = [...new Set(others.map((n) => n.authorName))];
  if (others.length === 0) return null;
  const requests = others.filter((n) => n.kind === "request" && n.standing !== "closed").length;
  return (
    <p className="mb-3 border-l-[3px] border-ochre pl-2.5">
      {by.join(", ")} {by.length === 1 ? "has" : "have"} written{" "}
      {others.length === 1 ? "a note" : `${others.length} notes`} already.{" "}
      {requests > 0 &&
        `What is asked for stays with the documents: ${requests === 1 ? "the request comes" : `the ${requests} requests come`} along when you send them again.`}
    </p>
  );
}
