import { useState } from "react";
import { useKept } from "../kept/useKept";
import { useMe } from "../session/me";
import type { PackageItem, PackageView, Verdict } from "../api/types";
import { Choices } from "../ui/Choices";
import { Button } from "../ui/kit";
import { VerdictMark, verdictWords } from "../ui/VerdictMark";
import { ApproveRest } from "./ApproveRest";
import { SignDialog } from "./SignDialog";
import { judged, reasoned, toJudge, undecided, verdictOf, type Choices as Judged } from "./verdicts";

const order: Verdict[] = ["approve", "approveAsNoted", "returnForChanges"];

/** The verdicts one means to sign in a seat of a package, kept until they are signed. */
export const useVerdicts = (p: PackageView, seat: string) =>
  useKept<Judged>(`verdicts on ${p.id} in ${seat || "no seat"}`, {});

type Props = {
  p: PackageView;
  item: PackageItem;
  seat: string;
  /** The absent person a deputy signs for; null when signing for oneself. */
  absent: string | null;
  choices: Judged;
  setChoices: (choices: Judged) => void;
  isSigning: boolean;
  setSigning: (isSigning: boolean) => void;
  onNext: () => void;
  onSigned: () => void;
};

/** Three verdicts for the item in view, next item, sign. */
export function VerdictBar(props: Props) {
  const { p, item, seat, absent, choices, setChoices, isSigning, setSigning } = props;
  const me = useMe();
  const [isApproving, setApproving] = useState(false);
  const items = toJudge(p, seat, absent ?? me.id);
  const choice = verdictOf(choices, item);
  const left = undecided(items, choices);
  const returned = items.filter((i) => verdictOf(choices, i)?.verdict === "returnForChanges");
  const requests = p.notes.filter(
    (n) => n.kind === "request" && n.standing !== "closed" && returned.some((i) => i.document === n.document),
  ).length;
  const sign =
    returned.length > 0
      ? `Return with ${requests} ${requests === 1 ? "request" : "requests"} …`
      : `Sign ${items.length} ${items.length === 1 ? "item" : "items"} …`;
  return (
    <section id="verdict" tabIndex={-1} aria-label="Verdict" className="shrink-0 border-t border-rule p-3.5">
      <p className="mb-2 flex items-baseline gap-1.5">
        <b className="font-mono text-sm font-semibold">{item.number}</b>{" "}
        <span className="text-soft">{choice ? "Your verdict:" : "Your verdict on this item?"}</span>
        {choice && (
          <button
            type="button"
            className="ml-auto min-h-6 underline"
            title="Take the verdict back (4)"
            onClick={() => setChoices(judged(choices, item, null))}
          >
            Not yet
          </button>
        )}
      </p>
      {items.includes(item) ? (
        <Choices
          label={`Verdict on ${item.number}`}
          value={choice?.verdict ?? ""}
          onChange={(verdict) => setChoices(judged(choices, item, verdict))}
          look={["bg-picked shadow-[inset_0_-3px_0_var(--color-spruce)]", "hover:bg-picked"]}
          options={order.map((verdict, i) => ({
            value: verdict,
            shown: (
              <span className="flex items-center gap-1 py-1.5">
                <VerdictMark verdict={verdict} decorative /> {verdictWords[verdict]}
                <kbd className="rounded-[3px] border border-rule px-1 font-mono text-[10px]">{i + 1}</kbd>
              </span>
            ),
          }))}
        />
      ) : (
        <p className="text-soft">Your verdict of the last round stands: it is unchanged.</p>
      )}
      {choice && choice.verdict !== "approve" && (
        <input
          className="field mt-2"
          aria-label="Reason"
          maxLength={2000}
          placeholder={
            choice.verdict === "approveAsNoted" ? "What you noted" : "Reason, besides the requests (may be left empty)"
          }
          value={choice.reason}
          onChange={(e) => setChoices(reasoned(choices, item, e.target.value))}
        />
      )}
      {left.length > 1 && left.length < items.length && returned.length === 0 && (
        <button type="button" className="mt-2 min-h-6 underline" onClick={() => setApproving(true)}>
          Approve the other {left.length} …
        </button>
      )}
      <div className="mt-3 flex gap-2">
        {p.items.length > 1 && (
          <Button shortcut="N" className="flex-1" onClick={props.onNext}>
            Next item
          </Button>
        )}
        <Button
          look="main"
          className="flex-1"
          disabled={left.length > 0}
          title={left.length > 0 ? `Without a verdict: ${left.map((i) => i.number).join(", ")}` : undefined}
          onClick={() => setSigning(true)}
        >
          {left.length > 0 ? `${left.length} to decide` : sign}
        </Button>
      </div>
      {isApproving && (
        <ApproveRest
          p={p}
          items={left}
          onApprove={() => setChoices(left.reduce((all, i) => judged(all, i, "approve"), choices))}
          onClose={() => setApproving(false)}
        />
      )}
      {isSigning && left.length === 0 && (
        <SignDialog
          p={p}
          items={items}
          seat={seat}
          absent={absent}
          choices={choices}
          onClose={() => setSigning(false)}
          onSigned={props.onSigned}
        />
      )}
    </section>
  );
}
