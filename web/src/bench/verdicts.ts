import type { PackageItem, PackageView, Verdict } from "../api/types";

/** A verdict one means to sign, with its reason. */
export type Choice = { verdict: Verdict; reason: string };

/** Verdicts by the draft they are on, which never changes: the next has none, nor has another document with the same bytes. */
export type Choices = Readonly<Record<string, Choice>>;

export const verdictOf = (choices: Choices, item: PackageItem): Choice | undefined => choices[item.draft];

/** The choices with another verdict on an item; what was said as the reason stays. Null takes it back to not yet. */
export function judged(choices: Choices, item: PackageItem, verdict: Verdict | null): Choices {
  const { [item.draft]: was, ...others } = choices;
  return verdict === null ? others : { ...others, [item.draft]: { verdict, reason: was?.reason ?? "" } };
}

/** The choices with another reason. */
export const reasoned = (choices: Choices, item: PackageItem, reason: string): Choices => {
  const was = choices[item.draft];
  return was ? { ...choices, [item.draft]: { ...was, reason } } : choices;
};

/** The items that a person judges who signs in a seat, as the server says. */
export function toJudge(p: PackageView, seat: string, holder: string): PackageItem[] {
  const drafts = (p.toJudge ?? []).find((j) => j.seat === seat && j.for === holder)?.drafts ?? [];
  return p.items.filter((i) => drafts.includes(i.draft));
}

/** The items without a verdict, in their order. */
export const undecided = (items: readonly PackageItem[], choices: Choices) =>
  items.filter((i) => verdictOf(choices, i) === undefined);
