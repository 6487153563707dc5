import { HubConnectionBuilder, LogLevel } from "@microsoft/signalr";
import type { QueryClient } from "@tanstack/react-query";

type Change = {
  kind:
    "package" | "document" | "overlay" | "sheets" | "upload" | "message" | "office" | "absence" | "plan" | "session";
  id: string;
};

/** The lists that a change of a kind shows in, besides the thing itself. */
const touched: Readonly<Record<Change["kind"], readonly string[]>> = {
  package: ["overlay", "desk", "packages", "notes", "ledger", "messages", "documents", "document"],
  document: ["documents", "ledger", "messages"],
  overlay: [],
  sheets: ["ledger"],
  upload: [],
  message: ["messages"],
  office: ["ledger", "session", "people", "groups", "rights", "folders", "calendars"],
  absence: ["ledger", "absences", "preview", "plan-preview"],
  plan: ["plans", "ledger"],
  session: ["session", "sessions"],
};

/** Keeps every query current while someone is signed in; gives a function that ends it. */
export function followChanges(queries: QueryClient): () => void {
  const connection = new HubConnectionBuilder()
    .withUrl("/live")
    .withAutomaticReconnect({ nextRetryDelayInMilliseconds: (c) => Math.min(500 * 2 ** c.previousRetryCount, 10_000) })
    .configureLogging(LogLevel.None)
    .build();
  const refresh = (...key: readonly string[]) => void queries.invalidateQueries({ queryKey: key });
  connection.on("changes", (changes: Change[]) => {
    for (const { kind, id } of changes) refresh(kind, id);
    // Changes come gathered: a list that many of them touch is asked for once.
    for (const list of new Set(changes.flatMap(({ kind }) => touched[kind]))) refresh(list);
  });
  // What changed while the line was down, or while the server could not listen, is not told again: everything shown is asked for anew.
  const everything = () => void queries.invalidateQueries();
  connection.on("again", everything);
  connection.onreconnected(everything);
  let over = false;
  let waiting = 0;
  const connect = (tried = 0) => {
    connection.start().then(
      () => tried > 0 && everything(),
      () => {
        if (!over) waiting = window.setTimeout(() => connect(tried + 1), Math.min(500 * 2 ** tried, 10_000));
      },
    );
  };
  // A connection that the server ended, with its session, is made anew when there is one again.
  connection.onclose(() => {
    if (over) return;
    refresh("session");
    waiting = window.setTimeout(() => connect(1), 1000);
  });
  connect();
  return () => {
    over = true;
    clearTimeout(waiting);
    void connection.stop();
  };
}
