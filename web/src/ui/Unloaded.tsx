import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useSyncExternalStore } from "react";
import { Button } from "./kit";
import { useLoadAgain } from "./useLoadAgain";

/** Says when something on this page could not be loaded, or is older than it should be, and lets it be asked for again. */
export function Unloaded() {
  const client = useQueryClient();
  const cache = client.getQueryCache();
  const loadAgain = useLoadAgain();
  const failed = () =>
    cache
      .findAll({ type: "active" })
      .filter((q) => q.state.status === "error" && (q.meta?.saysItself !== true || q.state.data !== undefined));
  const words = useSyncExternalStore(
    useCallback((changed) => cache.subscribe(changed), [cache]),
    () => {
      const [first] = failed();
      if (!first) return null;
      const what =
        first.state.data === undefined
          ? "Part of this page could not be loaded."
          : "What you see here may have changed since.";
      return `${what} ${first.state.error?.message ?? ""}`;
    },
  );
  return words ? (
    <div role="alert" className="flex items-center gap-3 border-b border-rust bg-fault px-6 py-1.5 text-fault-ink">
      <span className="min-w-0 flex-1">{words}</span>
      <Button onClick={loadAgain}>Load again</Button>
    </div>
  ) : null;
}
