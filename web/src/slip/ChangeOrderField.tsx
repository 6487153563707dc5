import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import { api } from "../api/client";
import { Labelled } from "../ui/kit";

type Props = { value: string; onChange: (number: string) => void };

/** The number of a change order; those that were carried out lately are offered, so that the same is written the same. */
export function ChangeOrderField({ value, onChange }: Props) {
  const list = useId();
  const { data = [] } = useQuery({
    queryKey: ["packages", "change orders"],
    queryFn: () => api.get("/packages/change-orders"),
    staleTime: 60_000,
    meta: { saysItself: true },
  });
  return (
    <Labelled label="Change order" hint="Its number, if this package carries one out.">
      <input className="field" list={list} value={value} maxLength={60} onChange={(e) => onChange(e.target.value)} />
      <datalist id={list}>
        {data.map((number) => (
          <option key={number} value={number} />
        ))}
      </datalist>
    </Labelled>
  );
}
