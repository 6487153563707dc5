import type { HubConnection } from "@microsoft/signalr";
import type { QueryClient } from "@tanstack/react-query";
import { Freshness, type News } from "./freshness";

/** Keeps every query current while someone is signed in; gives a function that ends it. */
export function followChanges(queries: QueryClient): () => void {
  const freshness = new Freshness(queries);
  let connection: HubConnection | null = null;
  let over = false;
  let waiting = 0;
  const later = (tried: number) => {
    if (!over) waiting = window.setTimeout(() => void connect(tried + 1), Math.min(500 * 2 ** tried, 10_000));
  };
  const connect = async (tried: number) => {
    try {
      connection ??= await make();
      if (over) return;
      await connection.start();
      // What changed while the line was down is not told again.
      if (tried > 0) freshness.hearEverything();
    } catch {
      later(tried);
    }
  };
  const make = async () => {
    // Whatever a page shows first comes before what keeps it current.
    const { HubConnectionBuilder, LogLevel } = await import("@microsoft/signalr");
    const made = new HubConnectionBuilder()
      .withUrl("/live")
      .withAutomaticReconnect({
        nextRetryDelayInMilliseconds: (c) => Math.min(500 * 2 ** c.previousRetryCount, 10_000),
      })
      .configureLogging(LogLevel.None)
      .build();
    made.on("changes", (news: News[]) => freshness.hear(news));
    // While the server could not listen, nothing was told: everything shown is asked for anew.
    made.on("again", () => freshness.hearEverything());
    made.onreconnected(() => freshness.hearEverything());
    // A connection that the server ended, with its session, is made anew when there is one again.
    made.onclose(() => {
      if (over) return;
      void queries.invalidateQueries({ queryKey: ["session"] });
      later(1);
    });
    return made;
  };
  void connect(0);
  return () => {
    over = true;
    clearTimeout(waiting);
    freshness.end();
    void connection?.stop();
  };
}
