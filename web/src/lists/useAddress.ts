import { useCallback } from "react";
import { useSearchParams } from "react-router";

/** Something picked that stands in the page's address by a name, so that a link shows the same; null where nothing is. */
export function useAddress(name: string): readonly [string | null, (value: string | null) => void] {
  const [params, setParams] = useSearchParams();
  const set = useCallback(
    (value: string | null) =>
      setParams(
        (now) => {
          const next = new URLSearchParams(now);
          if (value === null) next.delete(name);
          else next.set(name, value);
          return next;
        },
        { replace: true },
      ),
    [name, setParams],
  );
  return [params.get(name), set];
}
