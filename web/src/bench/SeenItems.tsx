import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api } from "../api/client";
import type { PackageItem, PackageView } from "../api/types";

/** How much one has seen of each item under review, in hundredths; what has no sheets is missing. */
export function useSeenOf(packageId: string): ReadonlyMap<string, number> {
  const { data } = useQuery({
    queryKey: ["seen of package", packageId],
    queryFn: () => api.get(`/packages/${packageId}/seen`),
    meta: { saysItself: true },
  });
  return useMemo(() => new Map(data?.map((s) => [s.draft, s.percent])), [data]);
}

/** How much of an item one has seen, and how much the step asks for. */
export function SeenLine({ percent, asked }: { percent: number | undefined; asked: number }) {
  if (percent === undefined) return null;
  const isShort = percent < asked;
  return (
    <span
      className={`block text-xs ${isShort ? "text-ochre" : "text-soft"}`}
      title={`You have had ${percent} % of it before you at a legible size${asked > 0 ? `; this step asks ${asked} %` : ""}.`}
    >
      {percent} % seen{isShort && ` of ${asked} %`}
    </span>
  );
}

/** What the step asks to be seen and was not, said before the password is typed. */
export function SeenBefore({ p, items, asked }: { p: PackageView; items: readonly PackageItem[]; asked: number }) {
  const seen = useSeenOf(p.id);
  const short = items.filter((i) => (seen.get(i.draft) ?? 100) < asked);
  if (asked === 0 || short.length === 0) return null;
  return (
    <div className="mb-3 border-l-[3px] border-ochre pl-2.5" role="status">
      <b className="font-semibold">This step asks that {asked} % of each item was before you at a legible size:</b>
      <ul>
        {short.map((i) => (
          <li key={i.draft}>
            <span className="font-mono text-sm">{i.number}</span>: {seen.get(i.draft)} % so far
          </li>
        ))}
      </ul>
      <p className="text-soft">Back on the bench, S shades what is left.</p>
    </div>
  );
}
