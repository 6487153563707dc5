import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api } from "../api/client";
import type { PostedMessage } from "../api/types";
import { heard } from "./hearing";

/** How long a notice stays, in milliseconds: long enough to be read twice. */
const STAYS = 12_000;

/** The newest message as it comes: a quiet line that leads to what it is about. */
export function Notices() {
  const { data: newest } = useQuery({
    queryKey: ["messages", "newest"],
    queryFn: () => api.get("/messages", { unread: "true" }),
    // An answer that is not what it should be is no news; the page beside it goes on.
    select: (page) => page.rows[0] ?? null,
    meta: { saysItself: true },
  });
  // What was there when the page opened is no news.
  const seen = useRef<string | null>(null);
  const [notice, setNotice] = useState<PostedMessage | null>(null);
  useEffect(() => {
    if (newest === undefined) return;
    const before = seen.current;
    seen.current = newest?.at ?? before ?? "";
    if (before === null || !newest || newest.at <= before) return;
    setNotice(newest);
    heard(newest.subject, newest.body);
  }, [newest]);
  useEffect(() => {
    if (!notice) return;
    const timer = window.setTimeout(() => setNotice(null), STAYS);
    return () => clearTimeout(timer);
  }, [notice]);
  return (
    <div role="status" aria-label="New messages" className="pointer-events-none fixed bottom-3 left-16 z-50">
      {notice && (
        <p className="pointer-events-auto flex max-w-[420px] items-center gap-3 border border-ink bg-raised px-3 py-2 shadow-xl">
          <Link
            to={notice.link}
            className="min-w-0 flex-1 truncate underline decoration-rule underline-offset-2"
            title={notice.subject}
            onClick={() => {
              setNotice(null);
              void api.post("/messages/read", { id: notice.id }).catch(() => undefined);
            }}
          >
            {notice.subject}
          </Link>
          <button type="button" className="shrink-0 text-soft underline" onClick={() => setNotice(null)}>
            Later
          </button>
        </p>
      )}
    </div>
  );
}
