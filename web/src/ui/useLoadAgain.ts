import { useQueryClient } from "@tanstack/react-query";

/** Asks again for everything on the page that could not be fetched: what kept one thing back kept others back as well. */
export function useLoadAgain() {
  const client = useQueryClient();
  return () => void client.refetchQueries({ type: "active", predicate: (q) => q.state.status === "error" });
}
