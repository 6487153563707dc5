import { isFound } from "../lists/listing";

/** What may take the place of what is being typed. */
export type Suggestion = { key: string; shown: string; /** What stands there then. */ words: string };
/** The part of a text that a suggestion replaces. */
export type Part = { from: number; to: number };

/** A blank in a wording, to be filled. */
export const BLANK = "___";

const MOST = 6;

/**
 * What is offered where somebody types: people after an @, wordings for the line that was begun.
 * @param at where the caret stands, in UTF-16 units
 */
export function suggested(
  text: string,
  at: number,
  people: readonly { id: string; name: string }[],
  phrases: readonly { id: string; words: string }[],
): { part: Part; all: Suggestion[] } {
  const before = text.slice(0, at);
  const named = /(?:^|[\s(])@([\p{L}\p{M}'’.-]*(?: [\p{L}\p{M}'’.-]*)?)$/u.exec(before);
  if (named) {
    const typed = named[1]!;
    const all = people
      .filter((p) => isFound(typed, p.name) && p.name !== typed.trim())
      .slice(0, MOST)
      .map((p) => ({ key: p.id, shown: p.name, words: `@${p.name} ` }));
    return { part: { from: at - typed.length - 1, to: at }, all };
  }
  // A wording is offered for a line that ends where one types.
  const from = before.lastIndexOf("\n") + 1;
  const line = before.slice(from);
  if (line.trim().length < 2 || (text[at] ?? "\n") !== "\n") return { part: { from, to: at }, all: [] };
  const all = phrases
    .filter((p) => p.words !== line && isFound(line, p.words))
    .slice(0, MOST)
    .map((p) => ({ key: p.id, shown: p.words, words: p.words }));
  return { part: { from, to: at }, all };
}

/** The text with a suggestion in its place, and what is picked in it next: its first blank, or where it ends. */
export function taken(text: string, part: Part, words: string): { text: string; from: number; to: number } {
  const full = text.slice(0, part.from) + words + text.slice(part.to);
  return { text: full, ...(blankAfter(full, part.from, part.from + words.length) ?? end(part.from + words.length)) };
}

const end = (at: number) => ({ from: at, to: at });

/** The first blank of a text from a place on; null where there is none. */
export function blankAfter(text: string, from: number, to = text.length): Part | null {
  const at = text.indexOf(BLANK, from);
  return at < 0 || at >= to ? null : { from: at, to: at + BLANK.length };
}

/** Whom a text names: behind each @ the one of the longest whole name that stands there. */
export function namedIn(text: string, people: readonly { id: string; name: string }[]): string[] {
  const longestFirst = people.filter((p) => p.name !== "").sort((a, b) => b.name.length - a.name.length);
  const named = new Set<string>();
  for (let at = text.indexOf("@"); at >= 0; at = text.indexOf("@", at + 1)) {
    const isWhole = (name: string) =>
      text.startsWith(name, at + 1) && !/[\p{L}\p{M}]/u.test(text[at + name.length + 1] ?? " ");
    const found = longestFirst.find((p) => isWhole(p.name));
    if (found) named.add(found.id);
  }
  return people.filter((p) => named.has(p.id)).map((p) => p.id);
}
