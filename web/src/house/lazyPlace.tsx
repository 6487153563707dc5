import { useEffect, useState, type ComponentType } from "react";
import { atLeisure } from "../ui/atLeisure";
import { Button, Empty } from "../ui/kit";
import { Waiting } from "../ui/Waiting";

/** A place whose script is fetched when somebody first goes there. */
export type LazyPlace = ComponentType & {
  /** Fetches it now, because it is surely wanted; gives when it is there, or cannot be had. */
  readonly fetch: () => Promise<void>;
  /** Fetches it when the browser has nothing better to do, because it is likely that somebody will go there. */
  readonly fetchAhead: () => void;
};

/**
 * A place of its own script. When the script cannot be fetched the place says so and offers to load it again. A browser may keep
 * that it could not have a script, and after Froe was renewed the old one is gone: then the page is opened anew, which loses
 * nothing, since what is typed is kept.
 * @param words what is being fetched, as in "Fetching the bench …"
 */
export function lazyPlace(words: string, load: () => Promise<ComponentType>): LazyPlace {
  let ready: ComponentType | null = null;
  let underWay: Promise<void> | null = null;
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
  function Place() {
    const [Loaded, setLoaded] = useState<ComponentType | null>(() => ready);
    const [hasFailed, setFailed] = useState(false);
    const [tries, setTries] = useState(0);
    useEffect(() => {
      if (Loaded) return;
      let isGone = false;
      fetch().then(
        () => isGone || setLoaded(() => ready),
        () => {
          if (isGone) return;
          if (tries > 1) window.location.reload();
          else setFailed(true);
        },
      );
      return () => {
        isGone = true;
      };
    }, [Loaded, tries]);
    if (Loaded) return <Loaded />;
    if (!hasFailed) return <Waiting>Fetching {words} …</Waiting>;
    return (
      <main className="flex flex-1" role="alert">
        <Empty title="This place could not be fetched">
          <p className="mb-4">Check the connection and try again. Nothing that you typed is lost.</p>
          <Button
            look="main"
            onClick={() => {
              setFailed(false);
              setTries(tries + 1);
            }}
          >
            Load again
          </Button>
        </Empty>
      </main>
    );
  }
  const now = () => fetch().catch(() => undefined);
  return Object.assign(Place, { fetch: now, fetchAhead: () => atLeisure(() => void now()) });
}
