import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { BookmarkPlus, X } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { api } from "../api/client";
import type { SavedView } from "../api/types";
import { Button, Fault } from "../ui/kit";
import type { Listing } from "./listing";
import { ToolPopover } from "./ToolPopover";
import { viewsQuery, type ListName } from "./viewsQuery";

/** One's own views of a list. */
export function Views<Row>({
  listing,
  list,
  isOpen = false,
}: {
  listing: Listing<Row>;
  list: ListName;
  /** Whether it opens as it comes. */
  isOpen?: boolean;
}) {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [removed, setRemoved] = useState<SavedView | null>(null);
  const { queryKey: key } = viewsQuery(list);
  const { data: views, error } = useQuery(viewsQuery(list));
  // One after the other: what is undone before its removal is answered must reach the server after it.
  const after = { scope: { id: `views ${list}` }, onSuccess: () => client.invalidateQueries({ queryKey: key }) };
  const keep = useMutation({ mutationFn: (view: SavedView) => api.put(`/views/${list}`, view), ...after });
  const remove = useMutation({
    mutationFn: (view: SavedView) => api.delete(`/views/${list}`, { name: view.name }),
    ...after,
  });
  const now = views?.find((v) => v.query === listing.query);
  return (
    <ToolPopover
      label="Views"
      look="w-72 p-2"
      isOpen={isOpen}
      onOpenChange={() => (setName(""), setRemoved(null), keep.reset(), remove.reset())}
      button={
        <>
          <BookmarkPlus size={15} className="shrink-0" />
          <span className="max-w-36 truncate">{now ? now.name : "Views"}</span>
        </>
      }
    >
      {views?.length === 0 && !removed && (
        <p className="px-2 py-1 text-soft">
          Search, filter, sort and choose columns; then keep it here under a name of your own.
        </p>
      )}
      <ul className="max-h-72 overflow-y-auto">
        {views?.map((v) => (
          <li key={v.name} className="flex items-center rounded hover:bg-picked">
            <Popover.Close asChild>
              <button
                type="button"
                aria-current={v === now}
                className={`min-w-0 flex-1 truncate px-2 py-1.5 text-left ${v === now ? "font-semibold" : ""}`}
                onClick={() => listing.show(v.query)}
              >
                {v.name}
              </button>
            </Popover.Close>
            <button
              type="button"
              aria-label={`Remove the view ${v.name}`}
              className="rounded p-1.5 text-soft hover:bg-lit hover:text-ink"
              onClick={() => (setRemoved(v), remove.mutate(v))}
            >
              <X size={14} />
            </button>
          </li>
        ))}
      </ul>
      {removed && (
        <p className="flex items-center gap-2 px-2 py-1 text-soft">
          <span className="min-w-0 truncate">“{removed.name}” is removed.</span>
          <button
            type="button"
            className="ml-auto rounded px-1 font-medium text-spruce underline"
            onClick={() => (keep.mutate(removed), setRemoved(null))}
          >
            Undo
          </button>
        </p>
      )}
      <Fault>{(error ?? keep.error ?? remove.error)?.message}</Fault>
      <form
        className="mt-1 flex gap-2 border-t border-rule px-1 pt-2"
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate({ name: name.trim(), query: listing.query }, { onSuccess: () => setName("") });
        }}
      >
        <input
          className="field min-w-0 flex-1"
          aria-label="Name of the view"
          placeholder="Keep this as …"
          maxLength={60}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" disabled={name.trim() === "" || keep.isPending}>
          {views?.some((v) => v.name === name.trim()) ? "Replace" : "Keep"}
        </Button>
      </form>
    </ToolPopover>
  );
}
