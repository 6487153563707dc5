import type { Mark } from "./store";

/** Some markups with all that are tied to them. */
export function withTied(ids: readonly string[], marks: readonly Pick<Mark, "id" | "tie">[]): string[] {
  const ties = new Set(marks.flatMap((m) => (m.tie !== null && ids.includes(m.id) ? m.tie : [])));
  if (ties.size === 0) return [...ids];
  const more = marks.filter((m) => m.tie !== null && ties.has(m.tie) && !ids.includes(m.id));
  return [...ids, ...more.map((m) => m.id)];
}
