import type { ComponentType } from "react";
import { atLeisure } from "../ui/atLeisure";
import { Button, Empty } from "../ui/kit";
import { lateScript, useLateScript } from "../ui/lateScript";
import { Waiting } from "../ui/Waiting";

/** A place whose script is fetched when somebody first goes there. */
export type LazyPlace = ComponentType & {
  /** Fetches it now, because it is surely wanted; gives when it is there, or cannot be had. */
  readonly fetch: () => Promise<void>;
  /** Fetches it when the browser has nothing better to do, because it is likely that somebody will go there. */
  readonly fetchAhead: () => void;
};

/**
 * A place of its own script. When the script cannot be fetched the place says so and offers to load it again.
 * @param words what is being fetched, as in "Fetching the bench …"
 */
export function lazyPlace(words: string, load: () => Promise<ComponentType>): LazyPlace {
  const script = lateScript(load);
  function Place() {
    const { loaded: Loaded, hasFailed, again } = useLateScript<ComponentType>(script);
    if (Loaded) return <Loaded />;
    if (!hasFailed) return <Waiting>Fetching {words} …</Waiting>;
    return (
      <main className="flex flex-1" role="alert">
        <Empty title="This place could not be fetched">
          <p className="mb-4">Check the connection and try again. Nothing that you typed is lost.</p>
          <Button look="main" onClick={again}>
            Load again
          </Button>
        </Empty>
      </main>
    );
  }
  return Object.assign(Place, {
    fetch: () => script.fetch().catch(() => undefined),
    fetchAhead: () => atLeisure(script.fetchAhead),
  });
}
