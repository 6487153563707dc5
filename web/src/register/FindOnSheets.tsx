import { keepPreviousData, useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api } from "../api/client";
import { Button, StandingTag } from "../ui/kit";
import { SideSheet } from "../ui/SideSheet";
import { useSettled } from "../ui/useSettled";

/** Finds words on the sheets of every document that one may read. */
export function FindOnSheets({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [words, setWords] = useState("");
  const asked = useSettled(words.trim());
  // How short words may be is the server's to say: two signs of some languages are a word.
  const isAsked = [...asked].length >= 2;
  const { data, error, isFetching, hasNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: ["find", "register", asked],
    queryFn: ({ pageParam }) => api.get("/find", { words: asked, after: pageParam ?? undefined }),
    initialPageParam: null as string | null,
    getNextPageParam: (last) => last.next,
    enabled: open && isAsked,
    placeholderData: keepPreviousData,
    meta: { saysItself: true },
  });
  const rows = !isAsked ? [] : (data?.pages.flatMap((p) => p.rows) ?? []);
  return (
    <SideSheet title="Find on sheets" open={open} onClose={onClose}>
      <input
        type="search"
        autoFocus
        aria-label="Words on the sheets"
        placeholder="Words, a number, a dimension …"
        maxLength={200}
        className="min-h-9 w-full border border-rule bg-raised px-2"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      <p role="status" className="py-2 text-sm text-soft">
        {!isAsked
          ? "At least three letters, or two signs of Chinese, Japanese or Korean. The newest draft of each document is looked through."
          : error
            ? error.message
            : isFetching && rows.length === 0
              ? "Looking …"
              : rows.length === 0
                ? "Nothing of it stands on a sheet that you may read."
                : `On ${rows.length}${hasNextPage ? " and more" : ""} ${rows.length === 1 ? "sheet" : "sheets"}`}
      </p>
      <ul>
        {rows.map((r) => (
          <li key={`${r.draft}/${r.leaf}`} className="border-t border-rule py-2">
            <Link
              className="flex items-baseline gap-2 hover:underline"
              to={`/register/${r.document}/read?sheet=${r.leaf + 1}&find=${encodeURIComponent(asked)}`}
            >
              <span className="font-mono text-sm whitespace-nowrap">{r.number}</span>
              <span className="min-w-0 flex-1 truncate font-medium">{r.title}</span>
              <StandingTag standing={r.standing} />
            </Link>
            <p className="text-sm text-soft">
              {r.leafName} · {r.count === 1 ? "once" : `${r.count} times`}
            </p>
            {r.lines.map((l, i) => (
              <p key={i} className="line-clamp-2 text-sm break-words">
                {l}
              </p>
            ))}
          </li>
        ))}
      </ul>
      {hasNextPage && (
        <Button onClick={() => void fetchNextPage()} disabled={isFetching}>
          Show more
        </Button>
      )}
    </SideSheet>
  );
}
