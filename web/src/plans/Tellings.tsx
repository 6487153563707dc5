import { X } from "lucide-react";
import type { Person, PersonGroup, Telling } from "../api/types";
import { moments } from "../slip/moments";

const asked = [
  ["originator", "the originator"],
  ["lastEditor", "the last editor"],
  ["asksSender", "ask the sender whom"],
] as const;

/** Who hears what happens at a step, besides its signers, or that the originator is late: one line each, added and removed in place. */
export function Tellings({
  title = "Who hears of it, besides the signers",
  onlyLate = false,
  tells,
  people,
  groups,
  onChange,
}: {
  title?: string;
  /** Of the originator's answers nothing else is told, and nobody but the people named. */
  onlyLate?: boolean;
  tells: readonly Telling[];
  people: readonly Person[];
  groups: readonly PersonGroup[];
  onChange: (tells: Telling[]) => void;
}) {
  const set = (i: number, patch: Partial<Telling>) => onChange(tells.map((t, k) => (k === i ? { ...t, ...patch } : t)));
  return (
    <>
      <h3 className="label mt-3 mb-1">{title}</h3>
      {tells.map((t, i) => (
        <div key={i} className="mb-2 border border-rule bg-raised p-2">
          <div className="flex items-center gap-1.5">
            <span className="shrink-0 text-soft">when</span>
            <select
              className="field"
              aria-label="Moment"
              value={t.at}
              onChange={(e) => set(i, { at: e.target.value as Telling["at"] })}
            >
              {Object.entries(moments)
                .filter(([k]) => !onlyLate || k === "late")
                .map(([k, w]) => (
                  <option key={k} value={k}>
                    {w}
                  </option>
                ))}
            </select>
            {t.at === "late" && (
              <select
                className="field !w-40"
                aria-label="How late"
                value={t.afterDays ?? 0}
                onChange={(e) => set(i, { afterDays: Number(e.target.value) })}
              >
                {[0, 1, 2, 3, 5, 10].map((d) => (
                  <option key={d} value={d}>
                    {d === 0 ? "at once" : `${d} ${d === 1 ? "day" : "days"} later`}
                  </option>
                ))}
              </select>
            )}
            <button
              type="button"
              aria-label={`Tell nobody when ${moments[t.at]}`}
              className="p-1"
              onClick={() => onChange(tells.filter((_, k) => k !== i))}
            >
              <X size={14} />
            </button>
          </div>
          <div className="mt-1 flex flex-wrap gap-1">
            {[...t.groups, ...t.people].map((id) => {
              const name = groups.find((g) => g.id === id)?.name ?? people.find((p) => p.id === id)?.name ?? "somebody";
              return (
                <button
                  key={id}
                  type="button"
                  aria-label={`Tell ${name} no more`}
                  className="inline-flex items-center gap-1 border border-rule px-1.5 text-sm hover:bg-picked"
                  onClick={() =>
                    set(i, { groups: t.groups.filter((g) => g !== id), people: t.people.filter((p) => p !== id) })
                  }
                >
                  {name} <X size={11} />
                </button>
              );
            })}
            <select
              className="field !w-auto flex-1"
              aria-label="Tell a group or a person"
              value=""
              onChange={(e) => {
                const id = e.target.value;
                if (groups.some((g) => g.id === id)) set(i, { groups: [...new Set([...t.groups, id])] });
                else if (id) set(i, { people: [...new Set([...t.people, id])] });
              }}
            >
              <option value="">tell …</option>
              <optgroup label="Groups">
                {groups.map((g) => (
                  <option key={g.id} value={g.id}>
                    {g.name}
                  </option>
                ))}
              </optgroup>
              <optgroup label="People">
                {people.map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.name}
                  </option>
                ))}
              </optgroup>
            </select>
          </div>
          <div className="mt-1 flex flex-wrap gap-x-3 text-sm">
            {(onlyLate ? [] : asked).map(([key, words]) => (
              <label key={key} className="flex items-center gap-1">
                <input
                  type="checkbox"
                  className="accent-spruce"
                  checked={!!t[key]}
                  onChange={(e) => set(i, { [key]: e.target.checked })}
                />
                {words}
              </label>
            ))}
          </div>
        </div>
      ))}
      <button
        type="button"
        className="underline"
        onClick={() =>
          onChange([...tells, { at: onlyLate ? "late" : "passage", people: [], groups: [], originator: !onlyLate }])
        }
      >
        tell somebody
      </button>
    </>
  );
}
