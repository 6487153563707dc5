import { useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useNavigate } from "react-router";
import { useKept } from "../kept/useKept";
import { useMe } from "../session/me";
import { api } from "../api/client";
import { newKey } from "../api/key";
import { useAct } from "../api/useAct";
import { blocksOf, planOf, stepsOf, type PackageItem, type PackageView } from "../api/types";
import { CheckpointFields } from "../slip/CheckpointFields";
import { nothingSaid, WhoHears } from "../slip/WhoHears";
import { FolderField } from "../ui/FolderField";
import { Button, Fault, Labelled } from "../ui/kit";
import { usePeople } from "../ui/people";
import { unlessGoneOn } from "../ui/unlessGoneOn";
import { VerdictMark } from "../ui/VerdictMark";
import { tellPending } from "./opened";
import { SeenBefore } from "./SeenItems";
import { verdictOf, type Choices } from "./verdicts";
import { Veil } from "../ui/Veil";

type Props = {
  p: PackageView;
  items: readonly PackageItem[];
  seat: string;
  /** The absent person a deputy signs for; null when signing for oneself. */
  absent: string | null;
  choices: Choices;
  onClose: () => void;
  onSigned: () => void;
};

/** What is written besides the verdicts, kept until it is signed; the password never is. */
type Written = {
  remark: string;
  answers: Readonly<Record<string, string>>;
  picks: Readonly<Record<string, string>>;
  folder: string;
};
const nothing: Written = { remark: "", answers: {}, picks: {}, folder: "" };

/** The last look before one's name stands under it: what is signed, what is asked at the step, the statement, the password. */
export function SignDialog({ p, items, seat, absent, choices, onClose, onSigned }: Props) {
  const me = useMe();
  const people = usePeople();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [password, setPassword] = useState("");
  const written = useKept<Written>(`signing ${p.id} round ${p.round} in ${seat}`, nothing);
  const { remark, answers, picks, folder } = written.value;
  const set = (patch: Partial<Written>) => written.set((was) => ({ ...was, ...patch }));
  const [say, setSay] = useState(nothingSaid);
  const of = (i: PackageItem) => verdictOf(choices, i)!;
  const returns = items.some((i) => of(i).verdict === "returnForChanges");
  const plan = planOf(p.slip);
  const step = stepsOf(plan).find((s) => s.seats.some((x) => x.key === seat));
  const points = step?.checkpoints ?? [];
  const questions = blocksOf(plan).flatMap((b) => (b.block === "choice" && b.pickedAt === step?.key ? [b] : []));
  const filing = (plan.closing ?? []).some((c) => c.action === "fileWherePicked" && c.step === step?.key);
  const unanswered = p.notes.filter((n) => n.kind === "question" && n.standing === "open");
  const asked = (p.advice ?? []).filter((a) => a.answer === null && a.askedBy === me.id);
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
      verdict: of(i).verdict,
      reason: of(i).reason,
    })),
  };
  const signing = useAct(async (key) => {
    await tellPending(items.map((i) => i.draft));
    const { grant } = await api.post("/session/confirm", { password });
    await api.post(`/packages/${p.id}/sign-offs`, { ...body, key, grant, say });
    written.discard();
    onSigned();
    await client.invalidateQueries();
    onClose();
    await navigate("/", { state: { says: `${returns ? "Returned" : "Signed"}: ${p.number} ${p.title}` } });
  });
  return (
    <Dialog.Root open onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Veil />
        <Dialog.Content
          aria-describedby="statement"
          onCloseAutoFocus={unlessGoneOn}
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[96dvh] w-[520px] max-w-[calc(100vw-1rem)] -translate-x-1/2 -translate-y-1/2 flex-col border border-ink bg-raised shadow-2xl"
        >
          <form
            className="flex min-h-0 flex-1 flex-col"
            onSubmit={(e) => {
              e.preventDefault();
              if (password !== "") void signing.run();
            }}
          >
            <div className="min-h-0 flex-1 overflow-y-auto p-5 pb-2">
              <Dialog.Title className="text-xl font-semibold">
                {returns ? "Return" : "Sign"} {p.number}, round {p.round}
              </Dialog.Title>
              <ul className="my-3 max-h-56 overflow-y-auto border border-rule">
                {items.map((i) => (
                  <li
                    key={i.draft}
                    className="flex items-center gap-2.5 border-t border-rule px-3 py-1.5 first:border-t-0"
                  >
                    <VerdictMark verdict={of(i).verdict} />
                    <span className="font-mono text-sm">
                      {i.number} {i.revision}.{i.ordinal}
                    </span>
                    <span className="min-w-0 flex-1 truncate" title={i.title}>
                      {i.title}
                    </span>
                    <span className="font-mono text-sm text-soft" title={`SHA-256 ${i.sha256}`}>
                      {i.sha256.slice(0, 8)}
                    </span>
                  </li>
                ))}
              </ul>
              <SeenBefore
                p={p}
                items={items.filter((i) => of(i).verdict !== "returnForChanges")}
                asked={step?.seenShare ?? 0}
              />
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
                onChange={(a) => set({ answers: a })}
              />
              {!returns &&
                questions.map((c) => (
                  <Labelled key={c.key} label={`How it goes on: ${c.name}`}>
                    <select
                      className="field"
                      value={picks[c.key] ?? ""}
                      onChange={(e) => set({ picks: { ...picks, [c.key]: e.target.value } })}
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
                  <FolderField filing value={folder} onChange={(f) => set({ folder: f })} />
                </Labelled>
              )}
              <Labelled label="Closing remark, for the record">
                <textarea
                  className="field"
                  rows={2}
                  maxLength={4000}
                  value={remark}
                  onChange={(e) => set({ remark: e.target.value })}
                />
              </Labelled>
              <WhoHears
                about={[p.id, { ...body, remark: "" }]}
                ask={() =>
                  api.post(`/packages/${p.id}/told`, {
                    signOff: { ...body, remark: "", key: newKey(), grant: "" },
                  })
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
            </div>
            {/* Always in sight, however little the window holds. */}
            <div className="shrink-0 border-t border-rule px-5 py-3">
              <Fault>{signing.fault}</Fault>
              <div className="flex justify-end gap-2">
                <Button onClick={onClose}>Back to the bench</Button>
                <Button look="main" type="submit" disabled={signing.isBusy || password === ""}>
                  {signing.isBusy ? "Signing …" : returns ? "Sign and return" : "Sign"}
                </Button>
              </div>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
