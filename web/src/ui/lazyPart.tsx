import type { ComponentType, ReactNode } from "react";
import { tell } from "./announce";
import { Button } from "./kit";
import { lateScript, useLateScript } from "./lateScript";

const COULD_NOT = "This part of the page could not be fetched. Check the connection and try again.";

type Coming = {
  /** What is shown until it is here. */
  coming?: ReactNode;
  /** Puts back what asked for it when it cannot be fetched, so that it can be asked for again; without it, it offers that itself. */
  onFailed?: () => void;
};

/** A part of a page whose script is fetched when somebody first wants it. When it cannot be fetched it says so; the page stays. */
export function lazyPart<Props extends object>(load: () => Promise<ComponentType<Props>>) {
  const script = lateScript(load);
  function Part({ coming = null, onFailed, ...props }: Props & Coming) {
    const { loaded, hasFailed, again } = useLateScript<ComponentType<Props>>(script, () => {
      if (!onFailed) return;
      tell(COULD_NOT);
      onFailed();
    });
    const Loaded = loaded;
    if (Loaded) return <Loaded {...(props as unknown as Props)} />;
    if (!hasFailed || onFailed) return coming;
    return (
      <div role="alert" className="m-auto max-w-sm p-6 text-center">
        <p className="mb-3">{COULD_NOT}</p>
        <Button onClick={again}>Load again</Button>
      </div>
    );
  }
  return Object.assign(Part, { fetchAhead: script.fetchAhead });
}
