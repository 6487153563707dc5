import { HubConnectionBuilder, LogLevel } from "@microsoft/signalr";
import type { QueryClient } from "@tanstack/react-query";

type Change = { kind: "package" | "document" | "upload" | "message" | "office" | "absence" | "plan"; id: string };

/** The lists that a change of a kind shows in, besides the thing itself. */
const touched: Readonly<Record<Change["kind"], readonly string[]>> = {
  package: ["desk", "packages", "notes", "ledger", "messages", "documents", "document"],
  document: ["documents", "ledger"],
  upload: [],
  message: ["messages"],
  office: ["ledger", "session", "people", "groups", "rights", "folders", "calendars"],
  absence: ["ledger", "absences", "preview", "plan-preview"],
  plan: ["plans", "ledger"],
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
  // What changed while the line was down is not told again, so everything shown is asked for anew.
  connection.onreconnected(() => void queries.invalidateQueries());
  void connection.start().catch(() => undefined);
  return () => void connection.stop();
}
