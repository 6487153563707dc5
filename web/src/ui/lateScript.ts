import { useEffect, useState } from "react";

/** How often it is asked for by a page of the same build; a browser may keep that it could not have a script. */
const TRIES = 3;

/** A script that is fetched when what is in it is first wanted. */
export type LateScript<What> = {
  /** What is in it, once it is here. */
  readonly ready: () => What | null;
  /** Fetches it; fails when it cannot be had, and may be asked again then. */
  readonly fetch: () => Promise<void>;
  /** Opens the page anew when that is what it takes to have it: whoever wanted it and could not have it asks for that. */
  readonly openAnew: () => void;
  /** Fetches it now, because it is likely wanted; whoever wants it says if it cannot be had. */
  readonly fetchAhead: () => void;
};

/** Whether the page that the server has now is of another build than this one, whose scripts are gone then; fails when it has none. */
async function isRenewed(): Promise<boolean> {
  const answer = await window.fetch(window.location.pathname, { cache: "no-store" });
  if (!answer.ok) throw new Error("The server has no page now.");
  const own = document.querySelector("script[type=module][src]")?.getAttribute("src");
  return own != null && !(await answer.text()).includes(own);
}

/**
 * A script that may come late. When Froe was renewed since the page was opened, and the old one is gone, the page is opened anew, and
 * likewise at the third time that it cannot be had while the server answers: that loses nothing, since what is typed is kept.
 */
export function lateScript<What>(load: () => Promise<What>): LateScript<What> {
  let ready: What | null = null;
  let underWay: Promise<void> | null = null;
  let failures = 0;
  const openAnew = async () => {
    failures++;
    if ((await isRenewed()) || failures >= TRIES) window.location.reload();
  };
  const fetch = () =>
    (underWay ??= load().then(
      (loaded) => {
        ready = loaded;
      },
      (fault: unknown) => {
        underWay = null;
        throw fault;
      },
    ));
  return {
    ready: () => ready,
    fetch,
    openAnew: () => void openAnew().catch(() => undefined),
    fetchAhead: () => void fetch().catch(() => undefined),
  };
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
        script.openAnew();
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
