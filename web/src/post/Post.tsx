import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { PlaceBar } from "../ui/PlaceBar";
import { api } from "../api/client";
import { useAct } from "../api/useAct";
import type { PostedMessage } from "../api/types";
import { useListing, usePages } from "../lists/listing";
import { SearchBox } from "../lists/SearchBox";
import { FileLink, ShowMore } from "../lists/Tools";
import { Views } from "../lists/Views";
import { Awaited } from "../ui/Awaited";
import { Button, Empty, Fault, Tick } from "../ui/kit";
import { HoursSheet } from "./HoursSheet";
import { messagesAsked, messagesList } from "./messagesList";
import { exactlyThere, when } from "../ui/time";

/** One's messages, newest first, each the way to what it speaks of. */
export function Post() {
  const client = useQueryClient();
  const [hours, setHours] = useState(false);
  const listing = useListing<PostedMessage>([], "-at");
  const what = messagesAsked(listing.get);
  const isFiltered = what.search !== "" || what.unread !== "";
  const { data: unread } = useQuery({
    queryKey: ["counts"],
    queryFn: () => api.get("/counts"),
    select: (counts) => counts.unread,
  });
  const list = usePages(messagesList(what));
  const { data } = list;
  const messages = data ?? [];
  const read = async (id: string | null) => {
    await api.post("/messages/read", { id });
    await client.invalidateQueries({ queryKey: ["messages"] });
    await client.invalidateQueries({ queryKey: ["counts"] });
  };
  const all = useAct(() => read(null));
  return (
    <>
      <PlaceBar title="Post" beside={unread === undefined ? "" : unread === 0 ? "all read" : `${unread} not read`}>
        <SearchBox listing={listing} label="Find in the post" hint="Words of a message" />
        <Views listing={listing} list="post" />
        <FileLink path="/api/messages.csv" what={what} />
        <Button onClick={() => setHours(true)}>Messages and mail</Button>
        <Button disabled={!unread || all.isBusy} onClick={() => void all.run()}>
          Mark all as read
        </Button>
      </PlaceBar>
      <main className="flex-1 overflow-y-auto">
        <div className="flex items-center gap-4 border-b border-rule px-4 pt-2 pb-1">
          <Tick
            words="only what is not read"
            on={what.unread !== ""}
            set={(on) => listing.set({ unread: on ? "true" : "" })}
          />
          {isFiltered && (
            <Button look="quiet" className="-mt-1" onClick={() => listing.clear(["search", "unread"])}>
              Clear the filters
            </Button>
          )}
        </div>
        <div className="px-4">
          <Fault>{all.fault}</Fault>
        </div>
        <Awaited what="the messages" of={list} />
        {data && messages.length === 0 && (
          <Empty title={isFiltered ? "No message fits" : "No messages yet"}>
            {isFiltered
              ? "Look for other words, or take a filter away."
              : "When a package needs you or is released, it says so here and by mail."}
          </Empty>
        )}
        <ul aria-busy={list.isPlaceholderData} className="aria-busy:cursor-progress">
          {messages.map((m) => (
            <li key={m.id}>
              <Link
                to={m.link}
                className="flex w-full gap-4 border-b border-rule px-4 py-2.5 text-left hover:bg-picked"
                // It stays marked where the line is dead, and leads there all the same.
                onClick={() => void read(m.id).catch(() => undefined)}
              >
                <span aria-hidden className={`mt-1.5 h-2 w-2 shrink-0 rounded-full ${m.readAt ? "" : "bg-rust"}`} />
                <span className="min-w-0 flex-1">
                  <span className={m.readAt ? "" : "font-semibold"}>{m.subject}</span>
                  {!m.readAt && <span className="sr-only"> (not read)</span>}
                  <span className="block truncate text-soft">{m.body}</span>
                </span>
                <span className="shrink-0 text-soft" title={exactlyThere(m.at)}>
                  {when(m.at)}
                </span>
              </Link>
            </li>
          ))}
        </ul>
        <ShowMore list={list} />
      </main>
      <HoursSheet open={hours} onClose={() => setHours(false)} />
    </>
  );
}
