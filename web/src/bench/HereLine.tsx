import type { PersonHere } from "../api/types";

const MOST = 4;

/** Who else has an item before them now. */
export function HereLine({ people }: { people: readonly PersonHere[] }) {
  const each = [...new Map(people.map((p) => [p.person, p])).values()];
  if (each.length === 0) return null;
  const words = people.map((p) => `${p.name}, sheet ${p.leaf + 1}`).join("; ");
  return (
    <span className="mt-0.5 flex items-center gap-1" title={`Here now: ${words}`}>
      <span className="sr-only">Here now: {words}</span>
      {each.slice(0, MOST).map((p) => (
        <span
          key={p.person}
          aria-hidden
          className="grid h-5 min-w-5 place-items-center rounded-full border border-spruce px-1 font-narrow text-xs font-semibold text-spruce"
        >
          {p.initials}
        </span>
      ))}
      {each.length > MOST && (
        <span aria-hidden className="text-xs text-soft">
          +{each.length - MOST}
        </span>
      )}
    </span>
  );
}
