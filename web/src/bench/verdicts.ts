import type { PackageItem, PackageView, Verdict } from "../api/types";

/** A verdict one means to sign, with its reason. */
export type Choice = { verdict: Verdict; reason: string };

/** Verdicts by the bytes they are on (SHA-256): a draft that changed under the page has none. */
export type Choices = Readonly<Record<string, Choice>>;

export const verdictOf = (choices: Choices, item: PackageItem): Choice | undefined => choices[item.sha256];

/** The choices with another verdict on an item; what was said as the reason stays. Null takes it back to not yet. */
export function judged(choices: Choices, item: PackageItem, verdict: Verdict | null): Choices {
  const { [item.sha256]: was, ...others } = choices;
  return verdict === null ? others : { ...others, [item.sha256]: { verdict, reason: was?.reason ?? "" } };
}

/** The choices with another reason. */
export const reasoned = (choices: Choices, item: PackageItem, reason: string): Choices => {
  const was = choices[item.sha256];
  return was ? { ...choices, [item.sha256]: { ...was, reason } } : choices;
};

/** The items that a person judges who signs in a seat, as the server says. */
export function toJudge(p: PackageView, seat: string, holder: string): PackageItem[] {
  const drafts = (p.toJudge ?? []).find((j) => j.seat === seat && j.for === holder)?.drafts ?? [];
  return p.items.filter((i) => drafts.includes(i.draft));
}

/** The items without a verdict, in their order. */
export const undecided = (items: readonly PackageItem[], choices: Choices) =>
  items.filter((i) => verdictOf(choices, i) === undefined);
