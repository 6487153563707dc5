import { useEffect, useState } from "react";

/** How often it is asked for by the page as it is. */
const TRIES = 3;

/** A script that is fetched when what is in it is first wanted. */
export type LateScript<What> = {
  /** What is in it, once it is here. */
  readonly ready: () => What | null;
  /** Fetches it; fails when it cannot be had, and may be asked again then. */
  readonly fetch: () => Promise<void>;
  /** Fetches it now, because it is likely wanted; whoever wants it says if it cannot be had. */
  readonly fetchAhead: () => void;
};

/**
 * A browser may keep that it could not have a script, and after Froe was renewed the old one is gone: at the third time the page is
 * opened anew, where the server answers, which loses nothing, since what is typed is kept.
 */
export function lateScript<What>(load: () => Promise<What>): LateScript<What> {
  let ready: What | null = null;
  let underWay: Promise<void> | null = null;
  let failures = 0;
  const openAnew = async () => {
    const { pathname } = window.location;
    if ((await window.fetch(pathname, { cache: "no-store" })).ok) window.location.reload();
  };
  const fetch = () =>
    (underWay ??= load().then(
      (loaded) => {
        ready = loaded;
      },
      (fault: unknown) => {
        underWay = null;
        if (++failures >= TRIES) void openAnew().catch(() => undefined);
        throw fault;
      },
    ));
  return { ready: () => ready, fetch, fetchAhead: () => void fetch().catch(() => undefined) };
}

/** What is in a script, null until it is here; whether it could not be had, and how it is asked for again. */
export function useLateScript<What>(script: LateScript<What>, onFailed?: () => void) {
  const [loaded, setLoaded] = useState<What | null>(() => script.ready());
  const [hasFailed, setFailed] = useState(false);
  const isWanted = loaded === null && !hasFailed;
  useEffect(() => {
    if (!isWanted) return;
    let isGone = false;
    script.fetch().then(
      () => isGone || setLoaded(() => script.ready()),
      () => {
        if (isGone) return;
        setFailed(true);
        onFailed?.();
      },
    );
    return () => {
      isGone = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- whom to tell changes with every drawing, and is no reason to ask again
  }, [script, isWanted]);
  return { loaded, hasFailed, again: () => setFailed(false) };
}
