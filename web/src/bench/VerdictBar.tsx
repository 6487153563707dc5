import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useRef, useState, type Dispatch, type SetStateAction } from "react";
import { useNavigate } from "react-router";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { newKey } from "../api/key";
import { blocksOf, stepsOf, type PackageItem, type PackageView, type Verdict, planOf } from "../api/types";
import { Button, Fault, Labelled } from "../ui/kit";
import { FolderField } from "../ui/FolderField";
import { usePeople } from "../ui/people";
import { CheckpointFields } from "../slip/CheckpointFields";
import { SeenBefore } from "./SeenItems";
import { nothingSaid, WhoHears } from "../slip/WhoHears";
import { VerdictMark, verdictWords } from "../ui/VerdictMark";

export type Choice = { verdict: Verdict; reason: string };
type Choices = Record<string, Choice>;
type Props = {
  p: PackageView;
  item: PackageItem;
  seat: string;
  /** The absent person a deputy signs for; null when signing for oneself. */
  absent: string | null;
  choices: Choices;
  setChoices: Dispatch<SetStateAction<Choices>>;
  onNext: () => void;
};

/** The items on which no verdict of this holder stands from the last round: a reading of the engine's own rule. */
function toJudge(p: PackageView, seat: string, holder: string): PackageItem[] {
  const kept = new Set(
    (p.slip.carried ?? [])
      .filter((c) => c.seat === seat && (c.for ?? c.person) === holder)
      .flatMap((c) => c.verdicts.map((v) => v.sha256)),
  );
  return p.items.filter((i) => !kept.has(i.sha256));
}

const order: Verdict[] = ["approve", "approveAsNoted", "returnForChanges"];

/** Three verdicts for the item in view, next item, sign. */
export function VerdictBar({ p, item, seat, absent, choices, setChoices, onNext }: Props) {
  const me = useMe();
  const items = toJudge(p, seat, absent ?? me.id);
  const [signing, setSigning] = useState(false);
  const choice = choices[item.draft];
  const given = items.filter((i) => choices[i.draft]);
  const returned = items.filter((i) => choices[i.draft]?.verdict === "returnForChanges");
  const requests = p.notes.filter(
    (n) => n.kind === "request" && n.standing !== "closed" && returned.some((i) => i.document === n.document),
  ).length;
  const missing = items.length - given.length;
  const sign =
    returned.length > 0
      ? `Return with ${requests} ${requests === 1 ? "request" : "requests"} …`
      : `Sign ${items.length} ${items.length === 1 ? "item" : "items"} …`;
  return (
    <div className="shrink-0 border-t border-rule p-3.5">
      <p className="mb-2">
        <b className="font-mono text-sm font-semibold">{item.number}</b>{" "}
        <span className="text-soft">{choice ? "Your verdict:" : "Your verdict on this item?"}</span>
      </p>
      <div role="radiogroup" aria-label={`Verdict on ${item.number}`} className="flex border border-ink">
        {order.map((v, i) => (
          <button
            key={v}
            type="button"
            role="radio"
            aria-checked={choice?.verdict === v}
            className={`flex flex-1 items-center justify-center gap-1.5 border-l border-ink py-2 font-medium first:border-l-0 ${choice?.verdict === v ? "bg-picked shadow-[inset_0_-3px_0_var(--color-spruce)]" : "hover:bg-picked"}`}
            onClick={() => setChoices({ ...choices, [item.draft]: { verdict: v, reason: choice?.reason ?? "" } })}
          >
            <VerdictMark verdict={v} decorative /> {verdictWords[v]}
            <kbd className="rounded-[3px] border border-rule px-1 font-mono text-[10px]">{i + 1}</kbd>
          </button>
        ))}
      </div>
      {choice && choice.verdict !== "approve" && (
        <input
          className="field mt-2"
          aria-label="Reason"
          maxLength={2000}
          placeholder={
            choice.verdict === "approveAsNoted" ? "What you noted" : "Reason, besides the requests (may be left empty)"
          }
          value={choice.reason}
          onChange={(e) => setChoices({ ...choices, [item.draft]: { ...choice, reason: e.target.value } })}
        />
      )}
      <div className="mt-3 flex gap-2">
        {p.items.length > 1 && (
          <Button shortcut="N" className="flex-1" onClick={onNext}>
            Next item
          </Button>
        )}
        <Button
          look="main"
          className="flex-1"
          disabled={missing > 0}
          title={missing > 0 ? `${missing} without a verdict` : undefined}
          onClick={() => setSigning(true)}
        >
          {missing > 0 ? `${missing} to decide` : sign}
        </Button>
      </div>
      {signing && (
        <SignDialog
          p={p}
          items={items}
          seat={seat}
          absent={absent}
          choices={choices}
          onClose={() => setSigning(false)}
        />
      )}
    </div>
  );
}

function SignDialog({
  p,
  items,
  seat,
  absent,
  choices,
  onClose,
}: {
  p: PackageView;
  items: readonly PackageItem[];
  seat: string;
  absent: string | null;
  choices: Choices;
  onClose: () => void;
}) {
  const me = useMe();
  const people = usePeople();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [password, setPassword] = useState("");
  const [remark, setRemark] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const key = useRef(newKey());
  const returns = items.some((i) => choices[i.draft]?.verdict === "returnForChanges");
  const plan = planOf(p.slip);
  const step = stepsOf(plan).find((s) => s.seats.some((x) => x.key === seat));
  const points = step?.checkpoints ?? [];
  const questions = blocksOf(plan).flatMap((b) => (b.block === "choice" && b.pickedAt === step?.key ? [b] : []));
  const [answers, setAnswers] = useState<Readonly<Record<string, string>>>({});
  const filing = (plan.closing ?? []).some((c) => c.action === "fileWherePicked" && c.step === step?.key);
  const [folder, setFolder] = useState("");
  const unanswered = p.notes.filter((n) => n.kind === "question" && n.standing === "open");
  const asked = (p.advice ?? []).filter((a) => a.answer === null && a.askedBy === me.id);
  const [picks, setPicks] = useState<Readonly<Record<string, string>>>({});
  const [say, setSay] = useState(nothingSaid);
  const body = {
    seat,
    remark,
    for: absent,
    answers: Object.entries(answers).map(([checkpoint, value]) => ({ checkpoint, value })),
    picks: Object.entries(picks).map(([choice, way]) => ({ choice, way })),
    folder: filing && !returns && folder !== "" ? folder : null,
    verdicts: items.map((i) => ({
      draft: i.draft,
      sha256: i.sha256,
      verdict: choices[i.draft]!.verdict,
      reason: choices[i.draft]!.reason,
    })),
  };
  const sign = async () => {
    setBusy(true);
    setFault(null);
    try {
      const { grant } = await api.post("/session/confirm", { password });
      await api.post(`/packages/${p.id}/sign-offs`, {
        ...body,
        key: key.current,
        grant,
        say,
      });
      await client.invalidateQueries();
      onClose();
      await navigate("/");
    } catch (e) {
      setFault((e as Error).message);
      setBusy(false);
    }
  };
  return (
    <Dialog.Root open onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby="statement"
          className="fixed top-1/2 left-1/2 z-50 max-h-[94vh] w-[520px] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border border-ink bg-raised p-5 shadow-2xl"
        >
          <Dialog.Title className="text-xl font-semibold">
            {returns ? "Return" : "Sign"} {p.number}, round {p.round}
          </Dialog.Title>
          <ul className="my-3 max-h-56 overflow-y-auto border border-rule">
            {items.map((i) => (
              <li key={i.draft} className="flex items-center gap-2.5 border-t border-rule px-3 py-1.5 first:border-t-0">
                <VerdictMark verdict={choices[i.draft]!.verdict} />
                <span className="font-mono text-sm">
                  {i.number} {i.revision}.{i.ordinal}
                </span>
                <span className="min-w-0 flex-1 truncate">{i.title}</span>
                <span className="font-mono text-sm text-soft" title={`SHA-256 ${i.sha256}`}>
                  {i.sha256.slice(0, 8)}
                </span>
              </li>
            ))}
          </ul>
          <SeenBefore
            p={p}
            items={items.filter((i) => choices[i.draft]?.verdict !== "returnForChanges")}
            asked={step?.seenShare ?? 0}
          />
          <form
            onSubmit={(e) => {
              e.preventDefault();
              void sign();
            }}
          >
            {unanswered.length + asked.length > 0 && (
              <div className="mb-3 border-l-[3px] border-ochre pl-2.5">
                <b className="font-semibold">Not answered yet:</b>
                <ul>
                  {unanswered.map((n) => (
                    <li key={n.id} className="truncate">
                      question {n.number} of {n.author === me.id ? "yours" : n.authorName}: {n.body}
                    </li>
                  ))}
                  {asked.map((a) => (
                    <li key={a.id} className="truncate">
                      what you asked {people.get(a.askedOf)?.name}: {a.question}
                    </li>
                  ))}
                </ul>
              </div>
            )}
            <CheckpointFields
              points={returns ? points.map((c) => ({ ...c, must: false })) : points}
              answers={answers}
              onChange={setAnswers}
            />
            {!returns &&
              questions.map((c) => (
                <Labelled key={c.key} label={`How it goes on: ${c.name}`}>
                  <select
                    className="field"
                    value={picks[c.key] ?? ""}
                    onChange={(e) => setPicks({ ...picks, [c.key]: e.target.value })}
                  >
                    <option value="">pick a way</option>
                    {c.ways.map((w) => (
                      <option key={w.key} value={w.key}>
                        {w.name}
                      </option>
                    ))}
                  </select>
                </Labelled>
              ))}
            {filing && !returns && (
              <Labelled label="Where it is filed on release" hint="A folder that you may file into.">
                <FolderField filing value={folder} onChange={setFolder} />
              </Labelled>
            )}
            <Labelled label="Closing remark, for the record">
              <textarea
                className="field"
                rows={2}
                maxLength={4000}
                value={remark}
                onChange={(e) => setRemark(e.target.value)}
              />
            </Labelled>
            <WhoHears
              about={[p.id, { ...body, remark: "" }]}
              ask={() =>
                api.post(`/packages/${p.id}/told`, { signOff: { ...body, remark: "", key: key.current, grant: "" } })
              }
              say={say}
              setSay={setSay}
            />
            <p id="statement" className="mb-3 border-l-[3px] border-ink pl-3">
              {p.statement}
            </p>
            <Labelled label="Your password, again">
              <input
                className="field"
                type="password"
                autoComplete="current-password"
                autoFocus
                value={password}
                onChange={(e) => setPassword(e.target.value)}
              />
            </Labelled>
            <Fault>{fault}</Fault>
            <div className="flex justify-end gap-2">
              <Button onClick={onClose}>Back to the bench</Button>
              <Button look="main" type="submit" disabled={busy || password === ""}>
                {busy ? "Signing …" : returns ? "Sign and return" : "Sign"}
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
