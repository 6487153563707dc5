import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { PlaceBar } from "../App";
import { api } from "../api/client";
import type { MessagePage } from "../api/types";
import { Button, Empty } from "../ui/kit";
import { HoursSheet } from "./HoursSheet";
import { when } from "../ui/time";

export function Post() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [hours, setHours] = useState(false);
  const { data, error } = useQuery({
    queryKey: ["messages"],
    queryFn: () => api.get<MessagePage>("/messages"),
    meta: { saysItself: true },
  });
  const read = async (id: string | null) => {
    await api.post("/messages/read", { id });
    await client.invalidateQueries({ queryKey: ["messages"] });
  };
  return (
    <>
      <PlaceBar title="Post" beside={data ? (data.unread === 0 ? "all read" : `${data.unread} not read`) : ""}>
        <Button onClick={() => setHours(true)}>How you hear</Button>
        <Button disabled={!data || data.unread === 0} onClick={() => void read(null)}>
          Mark all as read
        </Button>
      </PlaceBar>
      <main className="flex-1 overflow-y-auto">
        {!data && error && <Empty title="The messages could not be fetched">{error.message}</Empty>}
        {data?.messages.length === 0 && (
          <Empty title="No messages yet">When a package needs you or is released, it says so here and by mail.</Empty>
        )}
        <ul>
          {data?.messages.map((m) => (
            <li key={m.id}>
              <button
                type="button"
                className="flex w-full gap-4 border-b border-rule px-4 py-2.5 text-left hover:bg-picked"
                onClick={() => {
                  void read(m.id);
                  void navigate(m.link);
                }}
              >
                <span aria-hidden className={`mt-1.5 h-2 w-2 shrink-0 rounded-full ${m.readAt ? "" : "bg-rust"}`} />
                <span className="min-w-0 flex-1">
                  <span className={m.readAt ? "" : "font-semibold"}>{m.subject}</span>
                  {!m.readAt && <span className="sr-only"> (not read)</span>}
                  <span className="block truncate text-soft">{m.body}</span>
                </span>
                <span className="shrink-0 text-soft">{when(m.at)}</span>
              </button>
            </li>
          ))}
        </ul>
      </main>
      <HoursSheet open={hours} onClose={() => setHours(false)} />
    </>
  );
}
