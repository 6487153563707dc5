import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { PersonSelect } from "../ui/PersonSelect";
import { usePeople } from "../ui/people";

/** What whoever acts says to the people who are told, and who is told besides, for this once. */
export type Saying = { message: string; besides: readonly string[] };
export const nothingSaid: Saying = { message: "", besides: [] };

/** Who will be told, by name, before it is done; with a message to them, if wanted, and people to add. */
export function WhoHears({
  about,
  ask,
  say,
  setSay,
}: {
  /** What tells one act from another: when it changes, it is asked anew. */
  about: unknown;
  /** Asks who would be told of the act as it stands; null while it is not ready. */
  ask: (() => Promise<readonly string[]>) | null;
  say: Saying;
  setSay: (say: Saying) => void;
}) {
  const people = usePeople();
  const [open, setOpen] = useState(false);
  const { data } = useQuery({
    queryKey: ["told", about],
    queryFn: () => ask!(),
    enabled: ask !== null,
    placeholderData: keepPreviousData,
    retry: false,
    meta: { saysItself: true },
  });
  const told = (data ?? []).filter((x) => !say.besides.includes(x));
  const name = (x: string) => people.get(x)?.name ?? "somebody";
  return (
    <details className="mb-3 border-l-[3px] border-rule pl-2.5" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="cursor-pointer break-words">
        {data === undefined
          ? "Who hears of it, and a message to them"
          : told.length + say.besides.length === 0
            ? "Nobody is told by itself. Tell somebody …"
            : `${[...told, ...say.besides].map(name).join(", ")} will hear of it. Say more …`}
      </summary>
      {open && (
        <>
          <textarea
            className="field mt-2"
            rows={2}
            maxLength={4000}
            aria-label="Message to whoever is told"
            placeholder="A message to them (may be left empty)"
            value={say.message}
            onChange={(e) => setSay({ ...say, message: e.target.value })}
          />
          <div className="mt-1">
            <PersonSelect
              label="Tell somebody besides"
              nobody="tell somebody besides, for this once"
              people={[...people.values()].filter((x) => !told.includes(x.id) && !say.besides.includes(x.id))}
              value=""
              onChange={(x) => x && setSay({ ...say, besides: [...say.besides, x] })}
            />
          </div>
          {say.besides.map((x) => (
            <button
              key={x}
              type="button"
              className="mt-1 mr-1.5 rounded-full border border-spruce bg-spruce-soft px-2.5 py-0.5"
              aria-label={`Do not tell ${name(x)}`}
              onClick={() => setSay({ ...say, besides: say.besides.filter((b) => b !== x) })}
            >
              {name(x)} ×
            </button>
          ))}
        </>
      )}
    </details>
  );
}
