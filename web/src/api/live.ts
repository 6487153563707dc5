import { HubConnectionBuilder, LogLevel } from "@microsoft/signalr";
import type { QueryClient } from "@tanstack/react-query";

type Change = { kind: "package" | "document" | "upload" | "message" | "office" | "absence" | "plan"; id: string };

/** Keeps every query current while someone is signed in; gives a function that ends it. */
export function followChanges(queries: QueryClient): () => void {
  const connection = new HubConnectionBuilder()
    .withUrl("/live")
    .withAutomaticReconnect({ nextRetryDelayInMilliseconds: (c) => Math.min(500 * 2 ** c.previousRetryCount, 10_000) })
    .configureLogging(LogLevel.None)
    .build();
  const refresh = (key: readonly unknown[]) => void queries.invalidateQueries({ queryKey: key });
  connection.on("changes", (changes: Change[]) => {
    for (const { kind, id } of changes) {
      refresh([kind, id]);
      if (kind === "package") {
        refresh(["desk"]);
        refresh(["messages"]);
        refresh(["documents"]);
        refresh(["document"]);
      }
      if (kind === "document") refresh(["documents"]);
      if (kind === "absence") for (const key of ["absences", "preview", "plan-preview"]) refresh([key]);
      if (kind === "plan") refresh(["plans"]);
      if (kind === "message") refresh(["messages"]);
      if (kind === "office")
        for (const key of ["session", "people", "groups", "rights", "folders", "calendars"]) refresh([key]);
    }
  });
  // What changed while the line was down is not told again, so everything shown is asked for anew.
  connection.onreconnected(() => void queries.invalidateQueries());
  void connection.start().catch(() => undefined);
  return () => void connection.stop();
}
