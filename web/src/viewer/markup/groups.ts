import type { Mark } from "./store";

/** Some markups with all that are of their groups. */
export function withGroups(ids: readonly string[], marks: readonly Pick<Mark, "id" | "group">[]): string[] {
  const groups = new Set(marks.flatMap((m) => (m.group !== null && ids.includes(m.id) ? m.group : [])));
  if (groups.size === 0) return [...ids];
  const more = marks.filter((m) => m.group !== null && groups.has(m.group) && !ids.includes(m.id));
  return [...ids, ...more.map((m) => m.id)];
}
