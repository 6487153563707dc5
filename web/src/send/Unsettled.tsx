import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";

/** What was asked of the documents picked, and never settled: it comes along. */
export function Unsettled({ documents }: { documents: readonly string[] }) {
  const { data } = useQuery({
    queryKey: ["unsettled", documents],
    queryFn: () => api.post("/requests/unsettled", { documents: [...documents] }),
    enabled: documents.length > 0,
  });
  if (!data || data.length === 0 || documents.length === 0) return null;
  return (
    <div className="mt-2 mb-4 border-l-[3px] border-ochre pl-2.5">
      <b className="font-semibold">
        {data.length === 1
          ? "One request was never settled, and comes"
          : `${data.length} requests were never settled, and come`}{" "}
        along:
      </b>
      <ul>
        {data.map((r) => (
          <li key={r.id} className="break-words whitespace-pre-wrap" dir="auto">
            <span className="font-mono text-sm">{r.packageNumber}</span> {r.authorName}: {r.body}
          </li>
        ))}
      </ul>
    </div>
  );
}
