import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import { LoadedTable, type TableProps } from "./LoadedTable";

/** A table of a draft: it scrolls at once however long it is, its frozen heads stay, and ranges of its cells can be picked. */
export function TableView(props: TableProps) {
  const { draft, leaf } = props;
  const { data, error } = useQuery({
    queryKey: ["table", draft, leaf.position],
    queryFn: () => api.get(`/drafts/${draft}/leaves/${leaf.position}/cells`),
    staleTime: Infinity,
    meta: { saysItself: true },
  });
  if (error)
    return (
      <p role="alert" className="m-auto max-w-sm p-6 text-center">
        {error.message}
      </p>
    );
  if (!data)
    return (
      <p role="status" className="p-6 text-center text-soft">
        Fetching the table …
      </p>
    );
  return <LoadedTable key={`${draft}/${leaf.position}`} {...props} facts={data} />;
}
